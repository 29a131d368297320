import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { mulberry32 } from '../core/audio/dither'
import { writeWave } from '../core/audio/wave/write'
import { writeAiff } from '../demo/packs/aiff'
import type { JobView } from '../contract/jobs'
import { freshFolder, put, waveOf } from '../tests/helpers/folder'
import { makeLibrary } from '../tests/helpers/madeLibrary'
import { startServer, type RunningServer } from '../tests/helpers/server'
import { percentile, timed, type Figure } from './measure'

const FILES = Number(process.env.EMPORION_BENCH_FILES ?? 5000)
const FLAC_EVERY = 10
const ROUNDS = 3
const UNCHANGED = 100_000
const OPENED = 200_000
const SEARCHES = ['kick', 'pack 3', 'ki 49', '12', 'pack']

/** Intake of a made set of one-shots beside `sha256sum` over the same files; scans with nothing to do; opening a large library. */
export async function* benchIntake(): AsyncGenerator<Figure> {
  yield* await intake()
  yield* await unchanged()
  yield* await opening()
}

/** One-shots of 0.1 to 0.9 s in mixed containers and depths; every tenth is FLAC where the encoder is there. */
function makeOneShots(folder: string): string[] {
  const random = mulberry32(1)
  const flacs: string[] = []
  for (let i = 0; i < FILES; i++) {
    const frames = Math.round(44_100 * (0.1 + 0.8 * random()))
    const hz = 60 + 900 * random()
    const noise = random()
    const hit = Float32Array.from({ length: frames }, (_, t) => 0.8 * ((1 - noise) * Math.sin(2 * Math.PI * hz * t / 44_100) + noise * (random() * 2 - 1)) * Math.exp(-t / 4000))
    const name = `Pack ${i % 10}/Kick ${i}`
    if (i % 4 === 3) put(folder, `${name}.aif`, writeAiff([hit], 44_100, i % 8 === 3 ? 16 : 24))
    else {
      const path = put(folder, `${name}.wav`, writeWave([hit], 44_100, { depth: ([16, 24, 32] as const)[i % 3]! }))
      if (i % FLAC_EVERY === 0 && i % 3 < 2) flacs.push(path)
    }
  }
  spawnSync('xargs', ['-0', 'flac', '-s', '--delete-input-file'], { input: flacs.join('\0') })
  return readdirSync(folder, { recursive: true, withFileTypes: true }).filter(entry => entry.isFile()).map(entry => join(entry.parentPath, entry.name))
}

async function intake(): Promise<Figure[]> {
  const samples = freshFolder()
  const paths = makeOneShots(samples)
  // Once before either is measured, so that both read from the same warm cache.
  const sum = () => spawnSync('xargs', ['-0', 'sha256sum'], { input: paths.join('\0'), stdio: ['pipe', 'ignore', 'inherit'] })
  sum()
  // Others' use of the machine changes from one second to the next, so that the two are measured in turn, and the middle one counts.
  const rounds: { readonly yardstick: number, readonly alone: Awaited<ReturnType<typeof intakeOf>> }[] = []
  for (let i = 0; i < ROUNDS; i++) rounds.push({ yardstick: await timed(sum), alone: await intakeOf(samples, () => Promise.resolve()) })
  const { yardstick, alone } = rounds.sort((a, b) => a.alone.ms / a.yardstick - b.alone.ms / b.yardstick)[ROUNDS >> 1]!
  const searches: number[] = []
  await intakeOf(samples, async (server, isScanning) => {
    for (let i = 0; isScanning(); i++) {
      searches.push(await timed(() => server.api(`/api/sounds?q=${encodeURIComponent(SEARCHES[i % SEARCHES.length]!)}&limit=100`)))
      await new Promise(resolve => setTimeout(resolve, 100))
    }
  })
  const rate = (ms: number) => paths.length / ms * 1000
  return [
    { name: `intake of ${paths.length} one-shots, median of ${ROUNDS}`, value: alone.ms, unit: 'ms', yardstick: { name: 'sha256sum', value: yardstick } },
    { name: 'the same as a rate', value: rate(alone.ms), unit: 'files/s', yardstick: { name: 'sha256sum', value: rate(yardstick) } },
    { name: 'peak memory of the server', value: alone.peak, unit: 'MB', yardstick: { name: 'when it has just opened', value: alone.idle } },
    { name: 'search during another such intake, median', value: percentile(searches, 50), unit: 'ms', note: `${searches.length} searches` },
    { name: 'the same, p95', value: percentile(searches, 95), unit: 'ms' },
  ]
}

/** Brings the samples in on an empty data folder, with something going on meanwhile. */
async function intakeOf(samples: string, meanwhile: (server: RunningServer, isScanning: () => boolean) => Promise<void>): Promise<{ ms: number, peak: number, idle: number }> {
  const server = await startServer({ data: mkdtempSync(join(tmpdir(), 'emporion-bench-')), roots: [samples] })
  try {
    const idle = peakMegabytes(server.pid)
    let isScanning = true
    const going = meanwhile(server, () => isScanning)
    const ms = await timed(async () => server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } })))
    isScanning = false
    await going
    return { ms, peak: peakMegabytes(server.pid), idle }
  }
  finally {
    await server.stop()
  }
}

/** A source of which every file is known. */
async function unchanged(): Promise<Figure[]> {
  const samples = freshFolder()
  const data = mkdtempSync(join(tmpdir(), 'emporion-bench-'))
  const contents = waveOf(100, 20)
  await makeLibrary(data, UNCHANGED, {
    path: samples,
    name: 'Unchanged',
    statOf: (path) => {
      const whole = join(samples, path)
      mkdirSync(dirname(whole), { recursive: true })
      writeFileSync(whole, contents)
      const { size, mtimeMs } = statSync(whole)
      return { size, modifiedMs: mtimeMs }
    },
  })
  const server = await startServer({ data, roots: [samples] })
  try {
    const scan = async () => server.ended(await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } }))
    const find = () => spawnSync('find', [samples, '-type', 'f', '-size', '+1k'], { stdio: 'ignore' })
    await scan()
    find()
    const yardstick = await timed(find)
    return [{ name: `scan of ${UNCHANGED} files with nothing changed`, value: await timed(scan), unit: 'ms', yardstick: { name: 'find -size', value: yardstick } }]
  }
  finally {
    await server.stop()
  }
}

async function opening(): Promise<Figure[]> {
  const small = mkdtempSync(join(tmpdir(), 'emporion-bench-'))
  const data = mkdtempSync(join(tmpdir(), 'emporion-bench-'))
  await (await startServer({ data: small, roots: [small] })).stop()
  await makeLibrary(data, OPENED)
  const open = async (folder: string) => {
    let server: RunningServer | undefined
    const opened = await timed(async () => {
      server = await startServer({ data: folder, roots: [folder] })
    })
    const rows = await timed(async () => server?.api('/api/sounds?limit=100'))
    await server?.stop()
    return { opened, rows }
  }
  const yardstick = await open(small)
  const large = await open(data)
  return [
    { name: `start of the server with ${OPENED} sounds, until it is open`, value: large.opened, unit: 'ms', yardstick: { name: 'with an empty library', value: yardstick.opened } },
    { name: 'then the first rows of them all', value: large.rows, unit: 'ms', yardstick: { name: 'of an empty library', value: yardstick.rows } },
  ]
}

/** Most memory that a process ever had, from the kernel. */
function peakMegabytes(pid: number): number {
  return Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? Number.NaN) / 1000
}
