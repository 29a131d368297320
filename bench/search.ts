import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { makeLibrary } from '../tests/helpers/madeLibrary'
import { startServer } from '../tests/helpers/server'
import { median, percentile, timed, type Figure } from './measure'

const SOUNDS = 100_000
const QUERIES = ['kick', 'snare dark', 'hat op', 'deck ferry 12', 'k', 'tom soft dry', 'harbour', '777', 'chain rope long', 'open hat bright']

/** Time of a list search over HTTP in a library of made rows, beside `grep -ic` over a text file of the same names. */
export async function benchSearch(): Promise<Figure[]> {
  const data = mkdtempSync(join(tmpdir(), 'emporion-bench-'))
  const names = await makeLibrary(data, SOUNDS)
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
