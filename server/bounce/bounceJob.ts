import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { basename, join } from 'node:path'
import { fromDb, toDb } from '../../core/audio/level'
import { waveStart } from '../../core/audio/wave/write'
import { EmporionError } from '../../core/errors'
import { portableName, UniqueNames } from '../../core/formats/package/names'
import { assignParts, unheard } from '../../core/groove/assign'
import { alternatesAsked, playedOn, type PlayedPattern } from '../../core/groove/played'
import { playingSoundsOf, type Kit, type SoundRef } from '../../core/kit/document'
import { joinKits } from '../../core/kit/joinKits'
import { unsilenced } from '../../core/kit/silencing'
import { bounceFrames, type BounceRequest } from '../../core/render/bounce'
import { loweringFor } from '../../core/render/levelling'
import { listed } from '../../core/wording'
import { planStems, shareStems, stemFileName, type Stem, type StemPlan } from '../../core/render/stems'
import type { JobContext } from '../jobs/context'
import { workName } from '../base/work'
import { expectSounds, locateSound } from '../library/locate'
import { realDisk } from '../base/disk'
import { numbered, putFree } from '../base/putFree'
import { exportsDir } from './exports'
import type { BouncedSound, BouncePart } from './part'
import { renderParts } from './renderParts'
import type { Bounced, BouncedFile, BounceSpec } from '../../contract/bounce'
import { bounceError } from './words'

/** So that a thread which is held up leaves more to the others, and one part is flushed while the next is rendered. */
const PARTS_A_CORE = 2

/**
 * Renders a pattern on a kit into WAVE files: one mix, or stems. They are written to a folder of their own and only given their
 * names when all are whole.
 *
 * @throws EmporionError `invalid` when there is nothing to render; `disk-full`
 */
export async function bounceJob({ spec, folder }: { readonly spec: BounceSpec, readonly folder: string | null }, context: JobContext): Promise<Bounced> {
  const target = folder ?? exportsDir(context.config.cacheDir)
  const work = join(target, workName(context.config.dataDir))
  try {
    await mkdir(work, { recursive: true })
    return await bounceInto(spec, target, work, folder === null, context)
  }
  catch (thrown) {
    throw bounceError(thrown)
  }
  finally {
    await rm(work, { recursive: true, force: true })
  }
}

async function bounceInto(spec: BounceSpec, target: string, work: string, isDownload: boolean, context: JobContext): Promise<Bounced> {
  const kit = joinKits(spec.heard === 'all pads' ? spec.kits.map(unsilenced) : spec.kits)
  const assignment = assignParts(spec.pattern, kit, spec.way, spec.byHand)
  const pattern = playedOn(spec.pattern, kit, assignment, { bars: { from: spec.fromBar, to: Math.min(spec.toBar, spec.pattern.bars) } })
  if (pattern.ticks.length === 0) throw new EmporionError('invalid', { what: `No pad of "${kit.name}" sounds a hit of these bars of "${spec.pattern.name}".`, kept: 'Nothing was written.', next: 'Draw some hits, or give the parts pads.' })
  const { sounds, missing } = await findSounds(playingSoundsOf(kit, alternatesAsked(spec.pattern, assignment)), context)
  const kitNames = spec.kits.map(one => one.name)
  const plan = spec.what === 'mix' ? undefined : planStems(kit, pattern, spec.what, kitNames)
  const withMix = !plan || spec.withMix
  const stems: Stem[] = [...plan?.stems ?? [], ...(withMix ? [{ name: 'Mix', kind: '', pad: '', note: '', kit: listed(kitNames) }] : [])]
  const request = { kit, pattern, bpm: spec.pattern.tempoBpm, passes: spec.passes, tail: spec.tail, sampleRate: spec.sampleRate }
  const shares = shareOut(kit, pattern, plan, bounceFrames(request), withMix)
  const { files, loweredDb } = await renderFiles(request, shares, spec, namesOf(stems, spec), sounds, join(work, 'files'), context)
  const made = await giveNames(files, spec, target, work, isDownload)
  return { ...made, loweredDb, unheard: unheard(spec.pattern, assignment).hits, missing }
}

/** Where the sounds are, and the names of those that are nowhere. */
async function findSounds(wanted: readonly SoundRef[], { db, config }: JobContext): Promise<{ sounds: BouncedSound[], missing: string[] }> {
  await expectSounds(db, wanted.map(({ id }) => id))
  const found = await Promise.all(wanted.map(async sound => ({ sound, path: (await locateSound(db, config, sound.id))?.path })))
  return {
    sounds: found.flatMap(({ sound, path }) => path === undefined ? [] : [{ ...sound, path }]),
    missing: found.flatMap(({ sound, path }) => path === undefined ? [sound.name] : []),
  }
}

/** What each thread renders: files by their number, and which of those each pad is heard in. */
type StemShares = readonly { readonly files: readonly number[], readonly of: readonly number[] }[]

/** Stems are shared out among the cores; the mix is a thing of its own. */
function shareOut(kit: Kit, pattern: PlayedPattern, plan: StemPlan | undefined, frames: number, withMix: boolean): StemShares {
  const shares = plan ? shareStems(kit, pattern, plan, frames, PARTS_A_CORE * availableParallelism()) : []
  return [
    ...shares.map(files => ({ files, of: plan!.of.map(stem => files.indexOf(stem)) })),
    ...(withMix ? [{ files: [plan?.stems.length ?? 0], of: kit.pads.map(() => 0) }] : []),
  ]
}

/** Renders into files of a folder. Where integers would pass the ceiling it is done again, all files by as much lower. */
async function renderFiles(request: Omit<BounceRequest, 'sounds'>, shares: StemShares, spec: BounceSpec, names: readonly string[], sounds: readonly BouncedSound[], out: string, context: JobContext): Promise<{ files: BouncedFile[], loweredDb: number }> {
  const frames = bounceFrames(request)
  // Said before the disk is filled with what no file can hold.
  waveStart({ channelCount: 2, frames, sampleRate: spec.sampleRate, depth: spec.depth })
  for (let loweredDb = 0; ;) {
    await mkdir(out)
    const parts = shares.map(({ files, of }): Omit<BouncePart, 'state' | 'place'> => ({
      request: { ...request, stems: { count: files.length, of } },
      sounds,
      heard: heardOf(request.kit, of),
      files: files.map(file => ({ path: join(out, names[file]!), seed: file + 1 })),
      depth: spec.depth,
      gain: fromDb(loweredDb),
    }))
    const rendered = await renderParts(parts, frames, loweredDb < 0 ? 'rendering again, lower' : 'rendering', context)
    const written = rendered.flatMap((files, part) => files.map((file, i) => ({ ...file, number: shares[part]!.files[i]! }))).sort((a, b) => a.number - b.number)
    // Floats have room above full scale: nothing of them is lowered. What has been lowered fits, but for rounding: it is never done a third time.
    const needed = spec.depth === 'float' || loweredDb < 0 ? 0 : loweringFor(toDb(Math.max(...written.map(({ truePeak }) => truePeak))))
    if (needed === 0) {
      await realDisk.flushFolder(out)
      return { files: written.map(({ bytes, frames, highest, number }) => ({ name: names[number]!, bytes, peakDb: highest === 0 ? null : toDb(highest) + loweredDb, silent: highest === 0, seconds: frames / spec.sampleRate })), loweredDb }
    }
    loweredDb = needed
    await rm(out, { recursive: true })
  }
}

/** The sounds of the pads that are heard. */
function heardOf(kit: Kit, of: readonly number[]): Set<string> {
  return new Set(kit.pads.flatMap((pad, index) => (of[index] ?? -1) < 0 ? [] : pad.layers.map(layer => layer.sound.id)))
}

function namesOf(stems: readonly Stem[], spec: BounceSpec): string[] {
  const names = new UniqueNames()
  const about = { count: stems.length, pattern: spec.pattern.name, bpm: spec.pattern.tempoBpm }
  return stems.map((stem, index) => names.take(stemFileName(spec.name, stem, { ...about, index }), '.wav', `stem ${index + 1}`))
}

/** One file is put beside what is there, under a name that is free; several in a folder of their own. */
async function giveNames(files: readonly BouncedFile[], spec: BounceSpec, target: string, work: string, isDownload: boolean): Promise<Pick<Bounced, 'folder' | 'files' | 'download'>> {
  const from = join(work, 'files')
  if (isDownload) {
    const id = randomUUID()
    await rename(from, join(target, id))
    return { folder: join(target, id), files, download: id }
  }
  const [only] = files
  if (only && files.length === 1) {
    const name = await putFree(join(from, only.name), target, numbered(basename(only.name, '.wav'), '.wav'), false)
    await realDisk.flushFolder(target)
    return { folder: target, files: [{ ...only, name }], download: null }
  }
  const name = await putFree(from, target, numbered(portableName(`${spec.pattern.name} stems`, 'Stems')), true)
  await realDisk.flushFolder(target)
  return { folder: join(target, name), files, download: null }
}
