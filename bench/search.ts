import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { mulberry32 } from '../core/audio/dither'
import { openDatabase } from '../server/db/open'
import type { Analysis } from '../server/library/analyse'
import { recordFiles, type AnalysedFile } from '../server/library/record'
import { addSource } from '../server/library/sources'
import { startServer } from '../tests/helpers/server'
import { median, percentile, timed, type Figure } from './measure'

const SOUNDS = 100_000
const BATCH = 2_000
const WORDS = ['Kick', 'Snare', 'Hat', 'Open', 'Closed', 'Tom', 'Deep', 'Dark', 'Bright', 'Harbour', 'Ferry', 'Deck', 'Chain', 'Rope', 'Short', 'Long', 'Soft', 'Hard', 'Room', 'Dry']
const QUERIES = ['kick', 'snare dark', 'hat op', 'deck ferry 12', 'k', 'tom soft dry', 'harbour', '777', 'chain rope long', 'open hat bright']

/** Time of a list search over HTTP in a library of made rows, beside `grep -ic` over a text file of the same names. */
export async function benchSearch(): Promise<Figure[]> {
  const data = mkdtempSync(join(tmpdir(), 'emporion-bench-'))
  const names = await fillLibrary(data)
  const list = join(data, 'names.txt')
  writeFileSync(list, names.join('\n'))
  const server = await startServer({ data, roots: [data] })
  try {
    const figures: Figure[] = []
    const fresh: number[] = []
    const windows: number[] = []
    const greps: number[] = []
    for (let round = 0; round < 5; round++) {
      for (const query of QUERIES) {
        // Another spelling each round, so that no answer comes from the kept results.
        const text = encodeURIComponent(`${query} ${' '.repeat(round)}`.trimEnd() + (round ? ` ${['d', 's', 'r', 'f'][round - 1]}` : ''))
        fresh.push(await timed(() => server.api(`/api/sounds?q=${text}&limit=100`)))
        windows.push(await timed(() => server.api(`/api/sounds?q=${text}&offset=500&limit=100`)))
        greps.push(await timed(() => spawnSync('grep', ['-ic', query.split(' ')[0]!, list])))
      }
    }
    const whole = await timed(() => server.api('/api/sounds?limit=100'))
    const deep = await timed(() => server.api(`/api/sounds?offset=${SOUNDS - 200}&limit=100`))
    figures.push(
      { name: `search of ${SOUNDS} sounds, first page, median`, value: median(fresh), unit: 'ms', yardstick: { name: 'grep -ic', value: median(greps) } },
      { name: `search of ${SOUNDS} sounds, first page, p95`, value: percentile(fresh, 95), unit: 'ms', yardstick: { name: 'grep -ic, p95', value: percentile(greps, 95) } },
      { name: 'further window of the same search, median', value: median(windows), unit: 'ms' },
      { name: `the whole list of ${SOUNDS}, first page, first time`, value: whole, unit: 'ms' },
      { name: 'its last window', value: deep, unit: 'ms' },
    )
    return figures
  }
  finally {
    await server.stop()
  }
}

async function fillLibrary(data: string): Promise<string[]> {
  const database = await openDatabase({ folder: join(data, 'db'), migrationsFolder: 'server/db/migrations', workerFile: resolve('dist/workers/pglite.worker.mjs') })
  const source = await addSource(database.db, { name: 'Made rows', path: data, uploaded: false })
  const random = mulberry32(3)
  const names: string[] = []
  for (let start = 0; start < SOUNDS; start += BATCH) {
    const batch: AnalysedFile[] = Array.from({ length: BATCH }, (_, i) => {
      const pick = () => WORDS[Math.floor(random() * WORDS.length)]!
      const path = `${pick()} ${pick()}/${pick()} ${pick()} ${start + i}.wav`
      names.push(path)
      return { file: { type: 'file', path, size: 1000, modifiedMs: 0 }, analysis: made(start + i, random) }
    })
    await recordFiles(database.db, source.id, batch)
  }
  await database.close()
  return names
}

function made(n: number, random: () => number): Analysis {
  const overview = Uint8Array.from({ length: 192 }, (_, i) => Math.round((i % 2 ? 1 : -1) * 120 * Math.exp(-i / 40) * random()) & 255)
  return {
    facts: {
      hash: n.toString(16).padStart(64, '0'), container: 'WAVE', codec: 'PCM', sampleRate: 44_100, bitDepth: 16, channels: 1,
      frames: 20_000, lengthSeconds: 0.45, peak: random(), overview, embedded: {}, warnings: [],
    },
  }
}
