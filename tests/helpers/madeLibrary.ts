import { join, resolve } from 'node:path'
import { sql } from 'drizzle-orm'
import { FEATURES } from '../../core/audio/analysis/features'
import { FIGURES_VERSION, type Figures } from '../../core/audio/analysis/figures'
import { mulberry32 } from '../../core/audio/dither'
import { openDatabase, type Database } from '../../server/db/open'
import { tidyLibrary } from '../../server/db/upkeep'
import type { Analysis } from '../../server/library/analyse'
import { recordFiles, type AnalysedFile } from '../../server/library/record'
import { addSource } from '../../server/library/sources'

const BATCH = 2_000
const PACKS = Array.from({ length: 60 }, (_, i) => `Pack ${String.fromCharCode(65 + i % 26)}${i}`)
const WORDS = ['Kick', 'Snare', 'Hat', 'Open', 'Closed', 'Tom', 'Deep', 'Dark', 'Bright', 'Harbour', 'Ferry', 'Deck', 'Chain', 'Rope', 'Short', 'Long', 'Soft', 'Hard', 'Room', 'Dry']

export interface MadeFolder {
  readonly path: string
  readonly name: string
  /** What is known of a file, where there are files. */
  readonly statOf?: (path: string) => { readonly size: number, readonly modifiedMs: number }
}

/** Fills a data folder's library with rows of made-up sounds, without files unless they lie in the folder given. Gives their paths. */
export async function makeLibrary(data: string, count: number, folder: MadeFolder = { path: data, name: 'Made rows' }): Promise<string[]> {
  const database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  const source = await addSource(database.db, { name: folder.name, path: folder.path, uploaded: false })
  const random = mulberry32(3)
  const names: string[] = []
  for (let start = 0; start < count; start += BATCH) {
    const batch = Array.from({ length: Math.min(BATCH, count - start) }, (_, i) => {
      const pick = () => WORDS[Math.floor(random() * WORDS.length)]!
      const path = `${PACKS[Math.floor(random() * PACKS.length)]!}/${pick()} ${pick()}/${pick()} ${pick()} ${start + i}.wav`
      names.push(path)
      return madeFile(path, start + i, random, folder.statOf?.(path))
    })
    await recordFiles(database.db, source.id, batch)
  }
  await giveTags(database.db)
  await tidyLibrary(database.db)
  await database.close()
  return names
}

/** A file as a scan would have read it, with a sound of its own by the number given. */
export function madeFile(path: string, n: number, random: () => number, { size, modifiedMs } = { size: 1000, modifiedMs: 0 }): AnalysedFile {
  return { file: { type: 'file', path, size, modifiedMs }, analysis: made(n, random) }
}

const TAGS = ['dry', 'wet', 'vinyl', 'tape', 'favourite pack', 'layer me', 'sub', 'bright one']

/** Every third sound bears a tag, every ninth two; one in fifty is a favourite. */
async function giveTags(db: Database): Promise<void> {
  const tag = sql.raw(`(ARRAY[${TAGS.map(name => `'${name}'`).join(', ')}])`)
  await db.execute(sql`
    UPDATE sounds SET favourite = id % 50 = 0, hand_tags = t.tags, tags = t.tags, words = words || ' | ' || array_to_string(t.tags, ' | ')
    FROM (SELECT id AS own, CASE WHEN id % 9 = 0 THEN ARRAY[${tag}[1 + id % 8], ${tag}[1 + (id / 8 + id + 1) % 8]] ELSE ARRAY[${tag}[1 + id % 8]] END AS tags FROM sounds WHERE id % 3 = 0) t WHERE id = t.own`)
}

function made(n: number, random: () => number): Analysis {
  const overview = Uint8Array.from({ length: 192 }, (_, i) => Math.round((i % 2 ? 1 : -1) * 120 * Math.exp(-i / 40) * random()) & 255)
  const lengthSeconds = 0.05 * 2 ** (random() * 6)
  const likeness = Math.floor(random() * 12)
  return {
    facts: {
      hash: n.toString(16).padStart(64, '0'), formerHash: null, container: 'WAVE', codec: 'PCM', sampleRate: random() < 0.8 ? 44_100 : 48_000, bitDepth: random() < 0.5 ? 16 : 24, channels: random() < 0.5 ? 1 : 2,
      frames: Math.round(lengthSeconds * 44_100), lengthSeconds, peak: random(), overview, embedded: {}, warnings: [], figures: madeFigures(random, lengthSeconds),
      features: Uint8Array.from({ length: FEATURES }, (_, i) => Math.max(0, Math.min(255, 128 + 90 * Math.sin(i * (likeness + 1)) + 60 * (random() - 0.5)))), audioKind: null,
    },
  }
}

function madeFigures(random: () => number, lengthSeconds: number): Figures {
  const hitLufs = -34 + 24 * random()
  const note = 28 + Math.floor(50 * random())
  return {
    version: FIGURES_VERSION, flags: random() < 0.05 ? ['clipped'] : random() < 0.05 ? ['several-hits'] : [],
    level: { peakDb: -1, truePeakDb: -0.8, rmsDb: -18, crestDb: 17, integratedLufs: null, hitLufs, matchingGainDb: -18 - hitLufs },
    timing: { leadSeconds: 0, attackSeconds: 0.002, effectiveSeconds: lengthSeconds * (0.4 + 0.6 * random()), tailSeconds: 0, decaySeconds: lengthSeconds, noiseFloorDb: null },
    hits: [{ startSeconds: 0, endSeconds: lengthSeconds }], attack: null, body: null,
    brightness: Math.round(random() * 100), pitch: random() < 0.4 ? { hz: 440 * 2 ** ((note - 69) / 12), note, cents: 0, confidence: 0.8 } : null, clippedRuns: 0, dcOffset: 0,
  }
}
