import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { basename, dirname, join, relative, sep } from 'node:path'
import { fromDb, toDb } from '../../core/audio/level'
import { loudnessOf } from '../../core/audio/analysis/loudness'
import { writeWave } from '../../core/audio/wave/write'
import { messageOf } from '../../core/errors'
import { applyPlan } from '../../core/fit/apply'
import { planFit } from '../../core/fit/plan'
import { isLossless } from '../../core/fit/target'
import { timedNotes } from '../../core/groove/played'
import { parsePattern } from '../../core/groove/document'
import type { Kit } from '../../core/kit/document'
import { renderKit, type TimedNote } from '../../core/render/offline'
import { prepareSound } from '../../core/render/prepare'
import { previewNotes } from '../../core/render/preview'
import type { PreparedSound } from '../../core/render/voice'
import { exportsDir } from '../bounce/exports'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { identityOf } from '../library/analyse'
import { realDisk } from '../base/disk'
import { withVaultNames } from '../vault/exclusive'
import { indexFolder } from '../vault/index'
import { freeName } from '../vault/importPackage'
import { readVault } from '../vault/read'
import { storePreset } from '../vault/store'
import { writeFit } from './exportFit'
import { readForeign } from './foreign'
import { kitOfStudio } from './kitOfStudio'
import type { Steering } from './loadedKit'
import { KitAudio, measureFrom, measureKit } from './measures'
import { steeringOf } from './steering'
import type { FitSpec, ForeignSpec, HeardFit, HearSpec, ReadForeign, WriteSpec, WrittenFit, WrittenFits } from '../../contract/fit'

const HEARD_RATE = 48_000
const HEARD_LONGEST_SECONDS = 30

/** Measures a kit for a target; the measures lie in a file of the cache, since they are many. */
export async function measureJob({ kit, target }: Pick<FitSpec, 'kit' | 'target'>, context: JobContext): Promise<{ id: string }> {
  const { db, config } = context
  const measures = await measureKit(await kitOfStudio(kit, db, config), target, config.cacheDir, steeringOf(context, 'samples'))
  const id = randomUUID()
  await mkdir(exportsDir(config.cacheDir), { recursive: true })
  const part = join(exportsDir(config.cacheDir), `.${id}.part`)
  await mkdir(part)
  await realDisk.writeFile(join(part, 'measures.json'), new TextEncoder().encode(JSON.stringify(measures)))
  await rename(part, join(exportsDir(config.cacheDir), id))
  return { id }
}

/** Writes each kit for each target; what cannot be written is told in the summary and holds up no other. */
export async function writeJob({ spec, folder }: { readonly spec: WriteSpec, readonly folder: string | null }, context: JobContext): Promise<WrittenFits> {
  const { config, signal, report } = context
  const id = randomUUID()
  const out = folder ?? join(exportsDir(config.cacheDir), `.fit-${id}`)
  const items: WrittenFit[] = []
  const meter = new ProgressMeter('kits')
  meter.setTotal(spec.kits.length * spec.targets.length)
  for (const kit of spec.kits) {
    for (const target of spec.targets) {
      signal.throwIfAborted()
      const steering: Steering = { signal, onStep: (done, total, at) => report({ ...meter.progress(`${target.name}: ${at}`), ...(spec.kits.length * spec.targets.length === 1 ? { done, total, unit: 'samples' } : {}) }) }
      items.push(await writeOne({ kit, target, wishes: spec.wishes, way: spec.way, withoutMissing: spec.withoutMissing }, out, steering, context))
      meter.add(1)
      report(meter.progress(target.name))
    }
  }
  const download = folder === null && items.some(item => item.folder !== null) ? id : null
  if (folder === null) {
    if (download !== null) await rename(out, join(exportsDir(config.cacheDir), id))
    else await rm(out, { recursive: true, force: true })
  }
  return { folder: folder ?? join(exportsDir(config.cacheDir), id), items, download }
}

type ToWrite = Pick<WriteSpec, 'wishes' | 'way' | 'withoutMissing'> & Pick<FitSpec, 'kit' | 'target'>

async function writeOne({ kit: asked, target, wishes, way, withoutMissing }: ToWrite, out: string, steering: Steering, { db, config, signal }: JobContext): Promise<WrittenFit> {
  let name = 'kit' in asked ? asked.kit.name : asked.presetId
  try {
    const loaded = await kitOfStudio(asked, db, config)
    name = loaded.kit.name
    await mkdir(out, { recursive: true })
    const fitted = await writeFit(loaded, { target, wishes, withoutMissing, cacheDir: config.cacheDir, dataDir: config.dataDir, ...(way === null ? {} : { way }) }, out, steering)
    return {
      kit: name, target: target.name, folder: fitted.folder, files: fitted.files.length, bytes: fitted.files.reduce((sum, file) => sum + file.bytes, 0),
      before: fitted.plan.before, after: fitted.plan.after, outcome: fitted.outcome, missing: fitted.missing, error: null,
    }
  }
  catch (thrown) {
    signal.throwIfAborted()
    return { kit: name, target: target.name, folder: null, files: 0, bytes: 0, before: null, after: null, outcome: '', missing: [], error: messageOf(thrown) }
  }
}

/** Renders a kit playing its pattern as it is and as its target would have it, at one loudness, and their difference. */
export async function hearJob({ spec }: { readonly spec: HearSpec }, context: JobContext): Promise<HeardFit> {
  const { db, config, signal } = context
  const { target, wishes, way } = spec
  const loaded = await kitOfStudio(spec.kit, db, config)
  const { kit } = loaded
  const steering = steeringOf(context, 'samples')
  const plan = planFit(kit, target, measureFrom(await measureKit(loaded, target, config.cacheDir, steering)), wishes, way)
  const audio = new KitAudio(loaded)
  await audio.ready(kit.pads.flatMap(pad => pad.layers))
  const prepare = (all: Iterable<readonly [string, Parameters<typeof prepareSound>[0]]>) => new Map<string, PreparedSound>([...all].map(([id, one]) => [id, prepareSound(one, HEARD_RATE)]))
  const before = prepare(kit.pads.flatMap(pad => pad.layers.map(layer => [layer.sound.id, audio.of(layer)] as const)))
  const made = isLossless(target) ? undefined : applyPlan({ kit, target, plan, way, soundOf: audio.of, identify: identityOf, onSample: () => signal.throwIfAborted() })
  // Each pad plays its own notes, wherever it went: what is compared is the sound, not the layout.
  const after = made ? onOwnNotes(made.made.kit, made.arranged) : kit
  const notes = notesFor(spec, kit)
  const options = { sampleRate: HEARD_RATE, longestSeconds: HEARD_LONGEST_SECONDS }
  const one = renderKit(kit, before, notes, options)
  const other = renderKit(after, made ? prepare(made.made.samples) : before, notes, options)
  const frames = Math.max(one.left.length, other.left.length)
  const sides = [one, other].map(({ left, right }) => [left, right].map(side => lengthened(side, frames)))
  const [a, b] = sides as [Float32Array[], Float32Array[]]
  const matchedDb = Math.max(-24, Math.min(24, levelOf(a) - levelOf(b)))
  const matched = b.map(side => side.map(value => value * fromDb(matchedDb)))
  const difference = a.map((side, s) => side.map((value, i) => value - matched[s]![i]!))
  const id = randomUUID()
  const folder = join(exportsDir(config.cacheDir), id)
  const part = join(exportsDir(config.cacheDir), `.${id}.part`)
  await mkdir(part, { recursive: true })
  for (const [name, channels] of [['before', a], ['after', matched], ['difference', difference]] as const) await realDisk.writeFile(join(part, `${name}.wav`), writeWave(channels, HEARD_RATE, { depth: 'float' }))
  await rename(part, folder)
  return { id, seconds: frames / HEARD_RATE, matchedDb, differenceDb: Math.max(-120, powerDb(difference) - powerDb(a)) }
}

function onOwnNotes(kit: Kit, arranged: readonly { readonly slot: number, readonly fromNote: number }[]): Kit {
  const notes = new Map(arranged.map(({ slot, fromNote }) => [slot, fromNote]))
  return { ...kit, pads: kit.pads.map((pad, slot) => pad.layers.length > 0 ? { ...pad, note: notes.get(slot) ?? pad.note } : pad) }
}

function notesFor({ pattern }: HearSpec, kit: Kit): TimedNote[] {
  const notes = pattern === null ? [] : timedNotes(parsePattern(pattern), kit)
  return notes.length > 0 ? notes : previewNotes(kit)
}

function lengthened(side: Float32Array, frames: number): Float32Array {
  const out = new Float32Array(frames)
  out.set(side)
  return out
}

function levelOf(channels: readonly Float32Array[]): number {
  const { integratedLufs, hitLufs } = loudnessOf(channels, HEARD_RATE)
  return integratedLufs ?? hitLufs
}

function powerDb(channels: readonly Float32Array[]): number {
  return toDb(Math.sqrt(channels.reduce((sum, side) => sum + side.reduce((power, value) => power + value * value, 0), 1e-20)))
}

/** Reads a kit of another form into the vault, with its samples, so that it is self-contained at once. */
export async function foreignJob({ spec }: { readonly spec: ForeignSpec }, context: JobContext): Promise<ReadForeign> {
  const { db, config, signal, changed } = context
  const { path, preset, numbering, middleC, isUpload } = spec
  const steering = steeringOf(context, 'samples')
  const loaded = await readForeign(path, config.roots, { middleC, tempDir: config.tempDir, ...(preset === undefined ? {} : { preset }), ...(numbering === undefined ? {} : { numbering }) }, steering)
  try {
    const { presets } = await readVault(config.vaultDir)
    const name = freeName(loaded.kit.name, presets.map(one => one.name))
    const stored = await storePreset({ kit: { ...loaded.kit, name }, name, presetId: null, type: 'kit' }, { vaultDir: config.vaultDir, disk: realDisk, signal, locate: loaded.locate, onSample: steering.onStep, now: new Date(), withNames: work => withVaultNames(db, work) })
    await indexFolder(db, config.vaultDir, basename(dirname(stored.path)), 'checked')
    changed('vault')
    return { presetId: stored.presetId, name: stored.name, remarks: loaded.remarks, missing: loaded.missing }
  }
  finally {
    await loaded.close()
    if (isUpload) await rm(join(config.uploadsDir, relative(config.uploadsDir, path).split(sep)[0]!), { recursive: true, force: true })
  }
}
