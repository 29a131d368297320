import { join, resolve } from 'node:path'
import { FIGURES_VERSION, type Figures } from '../../core/audio/analysis/figures'
import { mulberry32 } from '../../core/audio/dither'
import { openDatabase } from '../../server/db/open'
import { tidyLibrary } from '../../server/db/upkeep'
import type { Analysis } from '../../server/library/analyse'
import { recordFiles, type AnalysedFile } from '../../server/library/record'
import { addSource } from '../../server/library/sources'

const BATCH = 2_000
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
    const batch: AnalysedFile[] = Array.from({ length: Math.min(BATCH, count - start) }, (_, i) => {
      const pick = () => WORDS[Math.floor(random() * WORDS.length)]!
      const path = `${pick()} ${pick()}/${pick()} ${pick()} ${start + i}.wav`
      names.push(path)
      const { size, modifiedMs } = folder.statOf?.(path) ?? { size: 1000, modifiedMs: 0 }
      return { file: { type: 'file', path, size, modifiedMs }, analysis: made(start + i, random) }
    })
    await recordFiles(database.db, source.id, batch)
  }
  await tidyLibrary(database.db)
  await database.close()
  return names
}

function made(n: number, random: () => number): Analysis {
  const overview = Uint8Array.from({ length: 192 }, (_, i) => Math.round((i % 2 ? 1 : -1) * 120 * Math.exp(-i / 40) * random()) & 255)
  return {
    facts: {
      hash: n.toString(16).padStart(64, '0'), container: 'WAVE', codec: 'PCM', sampleRate: 44_100, bitDepth: 16, channels: 1,
      frames: 20_000, lengthSeconds: 0.45, peak: random(), overview, embedded: {}, warnings: [], figures: madeFigures(random), features: null, audioKind: null,
    },
  }
}

function madeFigures(random: () => number): Figures {
  return {
    version: FIGURES_VERSION, flags: [], level: null, timing: null, hits: [], attack: null, body: null,
    brightness: Math.round(random() * 100), pitch: null, clippedRuns: 0, dcOffset: 0,
  }
}
