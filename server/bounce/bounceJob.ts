import { randomUUID } from 'node:crypto'
import { mkdir, readdir, rename, rm } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { setImmediate } from 'node:timers/promises'
import { decodeAudio } from '../../core/audio/decode'
import { fromDb, toDb } from '../../core/audio/level'
import { waveStart } from '../../core/audio/wave/write'
import { EmporionError } from '../../core/errors'
import { portableName, UniqueNames } from '../../core/formats/package/names'
import { assignParts, unheard } from '../../core/groove/assign'
import { alternatesAsked, playedOn } from '../../core/groove/played'
import { playingSoundsOf } from '../../core/kit/document'
import { joinKits } from '../../core/kit/joinKits'
import { bounceBlocks, bounceFrames, type BounceRequest } from '../../core/render/bounce'
import { prepareSound } from '../../core/render/prepare'
import { planStems, stemFileName, type Stem } from '../../core/render/stems'
import type { PreparedSound } from '../../core/render/voice'
import type { StereoBlock } from '../../core/render/workspace'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { locateSound } from '../library/locate'
import { realDisk, diskError } from '../vault/disk'
import { exportsDir } from './exports'
import type { Bounced, BouncedFile, BounceSpec } from './spec'
import { WaveFile } from './waveFile'

/** Integers have nothing above full scale: what would pass this is lowered, all files by as much. */
const CEILING_DB = -0.1
const BLOCKS_A_BREATH = 4

/**
 * Renders a pattern on a kit into WAVE files: one mix, or stems. They are written to a folder of their own and only given their
 * names when all are whole.
 *
 * @throws EmporionError `invalid` when there is nothing to render; `disk-full`
 */
export async function bounceJob({ spec, folder }: { readonly spec: BounceSpec, readonly folder: string | null }, context: JobContext): Promise<Bounced> {
  const target = folder ?? exportsDir(context.config.cacheDir)
  const work = join(target, `.bounce-${randomUUID()}`)
  try {
    await mkdir(work, { recursive: true })
    return await bounceInto(spec, target, work, folder === null, context)
  }
  catch (thrown) {
    throw diskError(thrown, 'the bounce was not written', 'Nothing half-written was left.')
  }
  finally {
    await rm(work, { recursive: true, force: true })
  }
}

async function bounceInto(spec: BounceSpec, target: string, work: string, isDownload: boolean, context: JobContext): Promise<Bounced> {
  const kit = joinKits(spec.kits)
  const assignment = assignParts(spec.pattern, kit, spec.way, spec.byHand)
  const pattern = playedOn(spec.pattern, kit, assignment, { bars: { from: spec.fromBar, to: Math.min(spec.toBar, spec.pattern.bars) } })
  if (pattern.ticks.length === 0) throw new EmporionError('invalid', { what: `No pad of "${kit.name}" sounds a hit of these bars of "${spec.pattern.name}".`, kept: 'Nothing was written.', next: 'Draw some hits, or give the parts pads.' })
  const { sounds, missing } = await loadSounds(playingSoundsOf(kit, alternatesAsked(spec.pattern, assignment)), spec.sampleRate, context)
  const plan = spec.what === 'mix' ? undefined : planStems(kit, pattern, spec.what)
  const stems: Stem[] = [...plan?.stems ?? [], ...(!plan || spec.withMix ? [{ name: 'Mix', kind: '', pad: '', note: '' }] : [])]
  const request: BounceRequest = { kit, sounds, pattern, bpm: spec.pattern.tempoBpm, passes: spec.passes, tail: spec.tail, sampleRate: spec.sampleRate, ...(plan ? { stems: { count: plan.stems.length, of: plan.of } } : {}) }
  const out = join(work, 'files')
  const { files, loweredDb } = await renderFiles(request, spec, namesOf(stems, spec), out, context)
  const made = await giveNames(files, spec, target, work, isDownload)
  return { ...made, loweredDb, unheard: unheard(spec.pattern, assignment).hits, missing }
}

/** Renders into files of a folder. Where integers would clip it is done again, so much lower that none does. */
async function renderFiles(request: BounceRequest, spec: BounceSpec, names: readonly string[], out: string, context: JobContext): Promise<{ files: BouncedFile[], loweredDb: number }> {
  const frames = bounceFrames(request)
  // Said before the disk is filled with what no file can hold.
  waveStart({ channelCount: 2, frames, sampleRate: spec.sampleRate, depth: spec.depth })
  for (let loweredDb = 0; ;) {
    await mkdir(out)
    const files: WaveFile[] = []
    try {
      for (const [i, name] of names.entries()) files.push(await WaveFile.create(join(out, name), { sampleRate: spec.sampleRate, depth: spec.depth, gain: fromDb(loweredDb), seed: i + 1 }))
      await render(files, bounceBlocks(request), frames / spec.sampleRate, loweredDb < 0 ? 'rendering again, lower' : 'rendering', spec.sampleRate, context)
      const peakDb = Math.max(...files.map(file => toDb(file.highest)))
      if (spec.depth === 'float' || peakDb + loweredDb <= CEILING_DB) return { files: await finish(files, names, out, loweredDb, spec.sampleRate, context), loweredDb }
      loweredDb = CEILING_DB - peakDb
    }
    finally {
      for (const file of files) await file.close()
    }
    await rm(out, { recursive: true })
  }
}

async function loadSounds(wanted: readonly { readonly id: string, readonly name: string }[], rate: number, { db, config, signal, report }: JobContext): Promise<{ sounds: Map<string, PreparedSound>, missing: string[] }> {
  const sounds = new Map<string, PreparedSound>()
  const missing: string[] = []
  const meter = new ProgressMeter('samples')
  meter.setTotal(wanted.length)
  for (const { id, name } of wanted) {
    signal.throwIfAborted()
    const file = await locateSound(db, config, id)
    if (file) sounds.set(id, prepareSound(await decodeAudio(await realDisk.readFile(file.path)), rate))
    else missing.push(name)
    meter.add(1, file?.size ?? 0)
    report(meter.progress(name))
  }
  return { sounds, missing }
}

/** Writes blocks as they come, and the sum of them all where there is one file more than there are stems. */
async function render(files: readonly WaveFile[], blocks: Iterable<readonly StereoBlock[]>, seconds: number, doing: string, rate: number, { signal, report }: JobContext): Promise<void> {
  const meter = new ProgressMeter('seconds of audio')
  meter.setTotal(Math.max(1, Math.ceil(seconds)))
  let [count, told] = [0, 0]
  for (const block of blocks) {
    for (const [i, file] of files.entries()) await file.add(block[i] ?? sumOf(block))
    if (++count % BLOCKS_A_BREATH !== 0) continue
    await setImmediate()
    signal.throwIfAborted()
    const done = Math.min(Math.ceil(seconds), Math.floor(files[0]!.length / rate))
    if (done > told) {
      meter.add(done - told)
      told = done
      report(meter.progress(doing))
    }
  }
}

function sumOf(block: readonly StereoBlock[]): StereoBlock {
  const sum: StereoBlock = [new Float32Array(block[0]![0].length), new Float32Array(block[0]![0].length)]
  for (const stem of block) {
    for (const side of [0, 1] as const) {
      const [into, from] = [sum[side], stem[side]]
      for (let i = 0; i < into.length; i++) into[i]! += from[i]!
    }
  }
  return sum
}

function namesOf(stems: readonly Stem[], spec: BounceSpec): string[] {
  const names = new UniqueNames()
  const about = { count: stems.length, pattern: spec.pattern.name, kit: spec.kits.map(kit => kit.name).join(' and '), bpm: spec.pattern.tempoBpm }
  return stems.map((stem, index) => names.take(stemFileName(spec.name, stem, { ...about, index }), '.wav', `stem ${index + 1}`))
}

async function finish(files: readonly WaveFile[], names: readonly string[], out: string, loweredDb: number, rate: number, { signal, report }: JobContext): Promise<BouncedFile[]> {
  const meter = new ProgressMeter('files')
  meter.setTotal(files.length)
  // All at once: the disk flushes several files faster than one after the other.
  const finished = await Promise.all(files.map(async (file, i) => {
    const bytes = await file.finish()
    meter.add(1, bytes)
    report(meter.progress(names[i]!))
    return { name: names[i]!, bytes, peakDb: toDb(file.highest) + loweredDb, seconds: file.length / rate }
  }))
  signal.throwIfAborted()
  await realDisk.flushFolder(out)
  return finished
}

/** One file is put beside what is there, under a name that is free; several in a folder of their own. */
async function giveNames(files: readonly BouncedFile[], spec: BounceSpec, target: string, work: string, isDownload: boolean): Promise<Pick<Bounced, 'folder' | 'files' | 'download'>> {
  const from = join(work, 'files')
  if (isDownload) {
    const id = randomUUID()
    await rename(from, join(target, id))
    return { folder: join(target, id), files, download: id }
  }
  const taken = new Set((await readdir(target)).map(name => name.toLowerCase()))
  const free = (stem: string, ending: string) => {
    for (let n = 1; ; n++) {
      const name = `${stem}${n > 1 ? ` ${n}` : ''}${ending}`
      if (!taken.has(name.toLowerCase())) return name
    }
  }
  const [only] = files
  if (only && files.length === 1) {
    const name = free(basename(only.name, '.wav'), '.wav')
    await rename(join(from, only.name), join(target, name))
    await realDisk.flushFolder(target)
    return { folder: target, files: [{ ...only, name }], download: null }
  }
  const folder = join(target, free(portableName(`${spec.pattern.name} stems`, 'Stems'), ''))
  await rename(from, folder)
  await realDisk.flushFolder(target)
  return { folder, files, download: null }
}
