import { createWriteStream } from 'node:fs'
import { mkdir, open, readdir, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { EmporionError } from '../../core/errors'
import { applyPlan } from '../../core/fit/apply'
import { usualArranging, type Arranging } from '../../core/fit/arrange'
import { planFit, type FitPlan, type Wishes } from '../../core/fit/plan'
import { reportHtml, reportText, type ReportFacts } from '../../core/fit/report'
import { isLossless, type Target } from '../../core/fit/target'
import { outcomeWords, shortfallWords } from '../../core/fit/words'
import { writeForTarget } from '../../core/fit/write'
import { portableName } from '../../core/formats/package/names'
import { utf8, type WrittenFile } from '../../core/formats/write'
import type { Kit } from '../../core/kit/document'
import { padLabel } from '../../core/kit/padLabel'
import { workName } from '../base/work'
import { identityOf } from '../library/analyse'
import { diskError, realDisk, type Disk } from '../base/disk'
import { packageStream } from '../vault/exportZip'
import { numbered, putFree } from '../base/putFree'
import { storePreset } from '../vault/store'
import type { LoadedKit, Steering } from './loadedKit'
import { KitAudio, measureFrom, measureKit, withoutMissing } from './measures'

/** What is to be written. */
export interface FitAsked {
  readonly target: Target
  readonly wishes: Wishes
  /** How pads find their places; as is usual for the target without it. */
  readonly way?: Arranging
  /** Pads whose samples are missing are left out, and the rest is written. */
  readonly withoutMissing?: boolean
  /** Where measures are kept; null: nowhere. */
  readonly cacheDir: string | null
  /** Whose work it is; null on the command line. */
  readonly dataDir: string | null
}

/** What came of it. */
export interface Fitted {
  readonly kit: string
  readonly target: string
  /** The folder with the files; null when nothing was written. */
  readonly folder: string | null
  readonly files: readonly { readonly path: string, readonly bytes: number }[]
  readonly plan: Pick<FitPlan, 'before' | 'after' | 'cost'>
  readonly kept: number
  readonly dropped: number
  readonly leftOut: number
  /** All of it in a line. */
  readonly outcome: string
  /** The samples that are not written, by the pad that they lie on. */
  readonly lost: readonly LostSample[]
  readonly loweredDb: number
  readonly missing: readonly string[]
}

/** A sample that gave way. */
export interface LostSample {
  readonly pad: string
  readonly sound: string
  /** `left out`: with its whole pad. */
  readonly state: 'dropped' | 'left out'
}

export const NO_WISHES: Wishes = { holds: {}, importance: {} }
/** Packages of one kit are to be the same to the byte, so they bear no date of their own: this is the earliest that a zip can say. */
const NO_DATE = new Date('1980-01-01T00:00:00Z')

/** Measures a kit and plans how it meets a target. Samples that are missing end it, or are left out if that was asked for. */
export async function planKit(loaded: LoadedKit, asked: FitAsked, steering: Steering): Promise<{ loaded: LoadedKit, plan: FitPlan, missing: readonly string[] }> {
  const away = await missingOf(loaded)
  const missing = [...loaded.missing, ...away.map(({ name }) => name)]
  if (missing.length > 0 && !asked.withoutMissing) {
    throw new EmporionError('not-found', { what: `${missing.length === 1 ? 'A sample is' : `${missing.length} samples are`} missing: ${missing.slice(0, 5).join('; ')}${missing.length > 5 ? ' and others' : ''}.`, kept: 'Nothing was written.', next: 'Put them back, or ask for the rest without them.' })
  }
  const whole = away.length > 0 ? { ...loaded, kit: withoutMissing(loaded.kit, new Set(away.map(({ id }) => id))) } : loaded
  if (whole.kit.pads.every(pad => pad.layers.length === 0)) throw new EmporionError('invalid', { what: `"${whole.kit.name}" has no pad with a sound.`, kept: 'Nothing was written.', next: 'Put sounds on its pads first.' })
  const measures = await measureKit(whole, asked.target, asked.cacheDir, steering)
  return { loaded: whole, plan: planFit(whole.kit, asked.target, measureFrom(measures), asked.wishes, asked.way), missing }
}

async function missingOf(loaded: LoadedKit): Promise<{ id: string, name: string }[]> {
  const sounds = new Map(loaded.kit.pads.flatMap(pad => pad.layers.map(({ sound }) => [sound.id, sound.name] as const)))
  const found: { id: string, name: string }[] = []
  for (const [id, name] of sounds) if (!await loaded.locate(id)) found.push({ id, name })
  return found
}

/**
 * Fits a kit to a target and writes it into a folder of its own below `out`, with its report. All is written beside its place and
 * flushed, then given its name, so that nothing half-written is ever seen.
 *
 * @param folder the name of the folder; where it is taken a number is put behind it
 * @throws EmporionError `limit` when the target cannot be met, saying by how much; `disk-full`
 */
export async function writeFit(source: LoadedKit, asked: FitAsked, out: string, steering: Steering, disk: Disk = realDisk): Promise<Fitted> {
  const { loaded, plan, missing } = await planKit(source, asked, steering)
  const { target } = asked
  refuseShortfalls(loaded.kit.name, plan, target)
  const work = join(out, workName(asked.dataDir))
  try {
    const { files, facts } = await filesOf(loaded, plan, asked, work, steering, disk)
    refuseTooMuch(loaded.kit.name, files.reduce((sum, file) => sum + file.bytes.length, 0), target)
    const report: WrittenFile[] = [{ path: 'report.html', bytes: utf8(reportHtml(facts)) }, { path: 'report.txt', bytes: utf8(reportText(facts)) }]
    const ready = join(work, 'files')
    for (const { path, bytes } of [...files, ...report]) {
      steering.signal.throwIfAborted()
      await disk.makeFolder(dirname(join(ready, path)))
      await disk.writeFile(join(ready, path), bytes)
    }
    for (const folder of new Set([...files.map(({ path }) => dirname(join(ready, path))), ready])) await disk.flushFolder(folder)
    steering.signal.throwIfAborted()
    const folder = await takeName(ready, out, `${portableName(`${loaded.kit.name} for ${target.name}`, 'Kit')}`, disk)
    const written = await sizesIn(folder)
    const count = (state: string) => plan.rows.filter(row => row.state === state).length
    return {
      kit: loaded.kit.name, target: target.id, folder, files: written, plan: { before: plan.before, after: plan.after, cost: plan.cost },
      kept: count('kept'), dropped: count('dropped'), leftOut: count('left out'), outcome: outcomeWords(loaded.kit, plan), lost: lostOf(loaded.kit, plan), loweredDb: facts.loweredDb, missing,
    }
  }
  catch (thrown) {
    throw diskError(thrown, `"${loaded.kit.name}" was not written for ${target.name}`, 'Nothing half-written was left.')
  }
  finally {
    await rm(work, { recursive: true, force: true })
  }
}

function lostOf(kit: Kit, { rows }: FitPlan): LostSample[] {
  return rows.flatMap(({ state, padIndex, unit }) => {
    if (state === 'kept') return []
    const pad = kit.pads[padIndex]!
    return [{ pad: padLabel(padIndex), sound: pad.layers[unit.layers[0]!]!.sound.name, state }]
  })
}

/** What was planned is what is written: nothing is, where that is more than the target takes. */
function refuseTooMuch(name: string, bytes: number, target: Target): void {
  if (target.limits.bytes === null || bytes <= target.limits.bytes) return
  throw new EmporionError('limit', { what: `"${name}" would take ${bytes} bytes as it is written for ${target.name}, which takes ${target.limits.bytes}.`, kept: 'Nothing was written.', next: 'Leave out a pad, or choose a larger target.' })
}

/** @throws EmporionError `limit` naming each limit that cannot be met, by how much, and what would be enough */
export function refuseShortfalls(name: string, plan: FitPlan, target: Target): void {
  if (plan.shortfalls.length === 0) return
  throw new EmporionError('limit', {
    what: `"${name}" cannot be made to fit ${target.name}. ${plan.shortfalls.map(shortfall => shortfallWords(shortfall, target)).join(' ')}`,
    kept: 'Nothing was written.', next: 'Release some holds, leave out some pads, or choose a larger target.',
  })
}

async function filesOf(loaded: LoadedKit, plan: FitPlan, { target, way = usualArranging(target) }: FitAsked, work: string, steering: Steering, disk: Disk): Promise<{ files: WrittenFile[], facts: ReportFacts }> {
  const { kit } = loaded
  const about = { kit, target, plan, remarks: loaded.remarks }
  if (isLossless(target)) {
    const bytes = await writePackage(loaded, work, steering, disk)
    refuseTooMuch(loaded.kit.name, bytes, target)
    return { files: [], facts: { ...about, arranged: plan.pads.map(({ padIndex }) => ({ padIndex, slot: padIndex, fromNote: kit.pads[padIndex]!.note, toNote: kit.pads[padIndex]!.note })), loweredDb: 0, nameOf: () => undefined } }
  }
  const audio = new KitAudio(loaded)
  await audio.ready(plan.rows.filter(row => row.state === 'kept').flatMap(row => row.unit.layers.map(index => kit.pads[row.padIndex]!.layers[index]!)))
  const { made, arranged, loweredDb } = applyPlan({
    kit, target, plan, way, soundOf: audio.of, identify: identityOf,
    onSample: (done, total) => {
      steering.signal.throwIfAborted()
      steering.onStep(done, total, target.name, 0)
    },
  })
  const slots = new Map(arranged.map(({ padIndex, slot }) => [padIndex, slot]))
  const kept = plan.rows.filter(row => row.state === 'kept')
  const nameOf = (padIndex: number, at: number) => {
    const place = kept.filter(row => row.padIndex === padIndex).findIndex(row => row.at === at)
    return made.kit.pads[slots.get(padIndex) ?? -1]?.layers[place]?.sound.name
  }
  return { files: writeForTarget(made, target), facts: { ...about, arranged, loweredDb, nameOf } }
}

/** A kit package: the kit and its samples as they are. Gives its size. */
async function writePackage({ kit, locate }: LoadedKit, work: string, { signal, onStep }: Steering, disk: Disk): Promise<number> {
  const stored = await storePreset({ kit, name: kit.name, presetId: null, type: 'kit' }, { vaultDir: join(work, 'vault'), disk, signal, locate, onSample: onStep, now: NO_DATE })
  const { stream, fileName } = await packageStream(stored.path, stored.name, NO_DATE)
  await disk.makeFolder(join(work, 'files'))
  const path = join(work, 'files', fileName)
  await pipeline(stream, createWriteStream(path, { flags: 'wx' }))
  const handle = await open(path, 'r')
  const { size } = await handle.stat()
  await handle.sync()
  await handle.close()
  return size
}

/** Gives a finished folder the name that is free. */
async function takeName(ready: string, out: string, wanted: string, disk: Disk): Promise<string> {
  await mkdir(out, { recursive: true })
  const name = await putFree(ready, out, numbered(wanted), true)
  await disk.flushFolder(out)
  return join(out, name)
}

async function sizesIn(folder: string): Promise<{ path: string, bytes: number }[]> {
  const entries = (await readdir(folder, { recursive: true, withFileTypes: true })).filter(entry => entry.isFile())
  const found = await Promise.all(entries.map(async entry => ({ path: join(entry.parentPath, entry.name).slice(folder.length + 1), bytes: (await stat(join(entry.parentPath, entry.name))).size })))
  return found.toSorted((a, b) => a.path < b.path ? -1 : 1)
}
