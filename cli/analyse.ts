import { stat } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { join, resolve } from 'node:path'
import { decideKind, type KindWitnesses } from '../core/search/decideKind'
import { kindFromName } from '../core/search/kindFromName'
import { kindFromTags } from '../core/search/kindFromTags'
import { readName } from '../core/search/naming'
import { loopByTempo, tempoOf } from '../core/search/tempo'
import { messageOf } from '../core/errors'
import { counted } from '../core/wording'
import type { Analysis } from '../server/library/analyse'
import { anywhere } from '../server/base/opener'
import { analyseBatch, type Batch } from '../server/library/pool'
import { threadPool } from '../server/jobs/threadPool'
import { walk } from '../server/library/walk'
import { command } from './command'

const FILES_A_TASK = 8
const WAITING_AT_MOST = 64
const NONE_READ = 3

/** One line of the output, see docs/analysis.md. */
type Line = Readonly<Record<string, unknown>>

interface Found {
  readonly path: string
  /** What its name and folders are read from: the path as it was reached. */
  readonly named: string
}

const USAGE = `usage: ./emporion analyse PATH... [--json] [--audio-only]

Measures every audio file in PATH (files or folders) and prints what was found, one line a file.
--json prints one JSON object a line; --audio-only leaves names and tags aside.
Ends with 0 where every file was read, 1 where some could not be, 2 where the arguments were not understood,
3 where none could be read.`

/** Every audio file below what was named; a file that was named itself is taken whatever it is called. */
async function* filesOf(paths: readonly string[]): AsyncGenerator<Found | { readonly path: string, readonly error: string }> {
  for (const given of paths) {
    const path = resolve(given)
    const found = await stat(path).catch((thrown: unknown) => messageOf(thrown))
    if (typeof found === 'string') yield { path, error: `It could not be looked at: ${found}.` }
    else if (!found.isDirectory()) yield { path, named: given }
    else {
      for await (const part of walk(path)) {
        for (const entry of part) {
          if (entry.type === 'file') yield { path: join(path, entry.path), named: entry.path }
          else if (entry.type === 'problem') yield { path: join(path, entry.path), error: entry.reason }
        }
      }
    }
  }
}

function lineOf({ path, named }: Found, analysis: Analysis, isByEar: boolean): Line {
  if ('error' in analysis) return { path, error: analysis.error }
  const { formerHash: _formerHash, overview: _overview, peak: _peak, features: _features, figures, audioKind, ...facts } = analysis.facts
  const kindBy: KindWitnesses = {
    file: isByEar ? null : kindFromTags(facts.embedded) ?? null,
    name: isByEar ? null : kindFromName(named) ?? null,
    audio: audioKind,
  }
  const { version, hits, ...rest } = figures
  const timed = isByEar ? undefined : { paths: [named], tagBpm: facts.embedded.tags?.bpm, lengthSeconds: facts.lengthSeconds }
  const kind = decideKind(kindBy, figures.flags, timed && loopByTempo(timed, figures.flags))
  const tempo = timed && tempoOf(timed, kind?.path ?? null)
  return {
    path, ...facts, figuresVersion: version, ...rest,
    onsets: hits.map(hit => hit.startSeconds),
    hits,
    kind: kind?.path ?? null,
    kindConfidence: kind?.confidence ?? null,
    kindBy,
    name: isByEar ? null : readName(named),
    tempo: tempo ?? null,
  }
}

function textOf(line: Line): string {
  if ('error' in line) return `${String(line.path)}: ${String(line.error)}`
  const level = line.level as { hitLufs: number } | null
  const flags = line.flags as readonly string[]
  return [String(line.path), line.kind ?? 'kind not known', `${Number(line.lengthSeconds).toFixed(2)} s`, level ? `${level.hitLufs.toFixed(1)} LUFS` : 'silent', ...flags].join(' · ')
}

/** Measures all files in threads, and hands on a line for each as it is ready. */
async function measureAll(paths: readonly string[], isByEar: boolean, say: (line: Line) => void): Promise<void> {
  const pool = threadPool<Batch, Analysis[]>({ filename: new URL('./workers/analyse.worker.mjs', import.meta.url).href, maxThreads: availableParallelism() })
  const analyse = async (batch: readonly Found[]) => {
    const results = await analyseBatch(pool, { paths: batch.map(file => file.path), roots: [...new Set(batch.flatMap(file => anywhere(file.path)))] })
    batch.forEach((file, i) => say(lineOf(file, results[i]!, isByEar)))
  }
  const running = new Set<Promise<void>>()
  let batch: Found[] = []
  for await (const file of filesOf(paths)) {
    if ('error' in file) {
      say(file)
      continue
    }
    batch.push(file)
    if (batch.length < FILES_A_TASK) continue
    const task = analyse(batch)
    batch = []
    running.add(task)
    void task.finally(() => running.delete(task))
    if (running.size >= WAITING_AT_MOST) await Promise.race(running)
  }
  if (batch.length > 0) running.add(analyse(batch))
  await Promise.all(running)
  await pool.destroy()
}

await command(USAGE, { 'json': { type: 'boolean', default: false }, 'audio-only': { type: 'boolean', default: false } },
  ({ positionals }) => positionals.length === 0 ? 'analyse needs the path of a file or folder.' : undefined,
  async ({ values, positionals }) => {
    let [read, failed] = [0, 0]
    await measureAll(positionals, values['audio-only'], (line) => {
      if ('error' in line) failed++
      else read++
      console.log(values.json ? JSON.stringify(line) : textOf(line))
    })
    if (!values.json) console.log(`${counted(read, 'file')} measured, ${failed} could not be read.`)
    if (read === 0) return NONE_READ
    return failed > 0 ? 1 : 0
  })
