import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { writeWave } from '../core/audio/wave/write'
import { mulberry32 } from '../core/audio/dither'
import type { JobView } from '../server/jobs/types'
import { freshFolder, put } from '../tests/helpers/folder'
import { startServer } from '../tests/helpers/server'
import { timed, type Figure } from './measure'

const FILES = 2000

/** Scan rate of a made set of one-shots, beside `sha256sum` over the same files. */
export async function benchIntake(): Promise<Figure[]> {
  const samples = freshFolder()
  const random = mulberry32(1)
  for (let i = 0; i < FILES; i++) {
    const frames = Math.round(44_100 * (0.1 + 0.8 * random()))
    const hit = Float32Array.from({ length: frames }, (_, t) => (random() * 2 - 1) * Math.exp(-t / 4000))
    put(samples, `Pack ${i % 10}/Kick ${i}.wav`, writeWave([hit], 44_100, { depth: i % 2 ? 16 : 24 }))
  }
  const server = await startServer({ data: mkdtempSync(join(tmpdir(), 'emporion-bench-')), roots: [samples] })
  const scan = async () => server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
  try {
    // Once before either is measured, so that both read from the same warm cache.
    const paths = readdirSync(samples, { recursive: true, withFileTypes: true }).filter(entry => entry.isFile()).map(entry => join(entry.parentPath, entry.name))
    const sum = () => spawnSync('xargs', ['-0', 'sha256sum'], { input: paths.join('\0'), stdio: ['pipe', 'ignore', 'inherit'] })
    sum()
    const yardstick = await timed(sum)
    const first = await timed(scan)
    const again = await timed(scan)
    const rate = (ms: number) => FILES / ms * 1000
    return [
      { name: `scan of ${FILES} one-shots`, value: rate(first), unit: 'files/s', yardstick: { name: 'sha256sum', value: rate(yardstick) } },
      { name: `second scan, nothing changed, ${FILES} files`, value: again, unit: 'ms', yardstick: { name: 'first scan', value: first } },
    ]
  }
  finally {
    await server.stop()
  }
}
