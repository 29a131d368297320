import { inArray } from 'drizzle-orm'
import { figuresOf } from '../../core/audio/analysis/figures'
import { schema, type Database } from '../../server/db/open'
import type { SoundFacts } from '../../server/library/analyse'
import { recordFiles } from '../../server/library/record'
import { sine } from './audio'

/** The identity of the n-th sound. */
export const hashOf = (n: number) => n.toString(16).padStart(64, '0')

const FIGURES = figuresOf([sine(220, 44_100, 8820, 0.5)], 44_100)

/** What was read of a sound: a tone. */
export function madeFacts(n: number, changes: Partial<SoundFacts> = {}): SoundFacts {
  return {
    hash: hashOf(n), formerHash: null, container: 'WAVE', codec: 'PCM', sampleRate: 44_100, bitDepth: 16, channels: 1, frames: 8820, lengthSeconds: 0.2, peak: 0.5,
    overview: new Uint8Array(4), embedded: {}, warnings: [], figures: FIGURES, features: null, audioKind: null, ...changes,
  }
}

/** Writes a source with files, each with the sound of a number, as a scan does. Gives the number of the source. */
export async function fillSource(db: Database, name: string, files: Readonly<Record<string, number | SoundFacts>>): Promise<number> {
  const [source] = await db.insert(schema.sources).values({ name, path: `/ferry/${name}` }).returning()
  const sourceId = source!.id
  await recordFiles(db, sourceId, Object.entries(files).map(([path, sound]) => ({
    file: { type: 'file' as const, path, size: 100, modifiedMs: 1 },
    analysis: { facts: typeof sound === 'number' ? madeFacts(sound) : sound },
  })))
  return sourceId
}

/** The ids of sounds by their numbers, in their order. */
export async function idsOf(db: Database, ...numbers: readonly number[]): Promise<number[]> {
  const rows = await db.select({ id: schema.sounds.id, hash: schema.sounds.hash }).from(schema.sounds).where(inArray(schema.sounds.hash, numbers.map(hashOf)))
  return numbers.map(n => rows.find(row => row.hash === hashOf(n))!.id)
}
