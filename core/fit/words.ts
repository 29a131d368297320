import { kindLabel, topKind } from '../search/kinds'
import type { Kit } from '../kit/document'
import { padLabel } from '../kit/padLabel'
import { capitalised, counted, listed } from '../wording'
import { KEPT_BAND, NOTHING_DB } from './measure'
import type { FitPlan, PlanRow } from './plan'
import type { SampleDepth } from '../formats/write'
import { slotsOf, type Target, type Writer } from './target'
import type { Meter, Usage } from './usage'
import type { Held, Shortfall } from './shortfall'

/** One change to a sample, and what it costs to the ear. */
export interface Change {
  readonly what: 'rate' | 'depth' | 'mono' | 'start' | 'end' | 'dropped' | 'left out' | 'mixed' | 'baked' | 'shared'
  /** What it takes away, in dB of the sound; null where nothing is. */
  readonly db: number | null
  readonly words: string
}

/** Below this nothing is lost that anybody hears beside the sound. */
const UNHEARD_DB = -60

/** How a loss of so many dB of a sound is heard. */
export function heardAs(db: number): string {
  if (db <= UNHEARD_DB) return 'not heard'
  if (db <= -45) return 'hardly heard'
  if (db <= -30) return 'heard alone'
  if (db <= -18) return 'heard when looked for'
  if (db <= -8) return 'clearly heard'
  return 'another sound'
}

/** What each kind loses with its highest frequencies. */
const TOPS: Readonly<Record<string, string>> = { kick: 'its click', snare: 'its wires', hat: 'its shine', cymbal: 'its shine', shaker: 'its air', clap: 'its air', snap: 'its air', metal: 'its ring', wood: 'its click', rim: 'its click', tom: 'its attack', hand: 'its slap', voice: 'its breath' }

/** What becomes of a sample, change by change, in plain words. */
export function changesOf(kit: Kit, row: PlanRow): Change[] {
  const pad = kit.pads[row.padIndex]!
  if (row.state === 'left out') return [{ what: 'left out', db: 0, words: 'The whole pad is left out.' }]
  if (row.state === 'dropped') return [dropped(row)]
  const { measure, variant } = row
  if (!variant) return []
  const found: Change[] = []
  const kind = pad.role === null ? 'it' : `this ${kindLabel(topKind(pad.role)).toLowerCase()}`
  if (row.unit.layers.length > 1) found.push({ what: 'mixed', db: null, words: `${row.unit.layers.length} layers that sound together become one sample.` })
  if (variant.sampleRate !== measure.sampleRate) found.push(rateChange(row, kind, pad.role))
  if (measure.channels === 2 && variant.channels === 1) found.push(monoChange(row))
  if (variant.fromFrame > 0) found.push({ what: 'start', db: null, words: `${(variant.fromFrame / measure.sampleRate * 1000).toFixed(0)} ms of silence before it go.` })
  if (variant.toFrame < measure.frames) {
    const db = variant.lostDb.tail
    found.push({ what: 'end', db, words: `The last ${((measure.frames - variant.toFrame) / measure.sampleRate).toFixed(2)} s of ${(measure.frames / measure.sampleRate).toFixed(2)} s go: ${dB(db)}, ${heardAs(db)}.` })
  }
  if (variant.depth !== 'float' && (measure.sourceBits === 0 || measure.sourceBits > variant.depth)) {
    const db = variant.lostDb.noise
    found.push({ what: 'depth', db, words: `${measure.sourceBits > 0 ? `${measure.sourceBits} to ` : ''}${variant.depth} bit with dither: noise at ${dB(db)}, ${heardAs(db)}.` })
  }
  if (row.sharedWith !== null) found.push({ what: 'shared', db: null, words: `The same sample as on ${row.sharedWith}: it is written once.` })
  return found
}

function rateChange({ measure, variant }: PlanRow, kind: string, role: string | null): Change {
  const { sampleRate, lostDb: { bandwidth: db } } = variant!
  const rates = `${rateWords(measure.sampleRate)} to ${rateWords(sampleRate)} kHz`
  if (db <= UNHEARD_DB || sampleRate > measure.sampleRate) return { what: 'rate', db: sampleRate > measure.sampleRate ? null : db, words: `${rates}: nothing that is heard.` }
  const from = (sampleRate / 2 * KEPT_BAND / 1000).toFixed(0)
  return { what: 'rate', db, words: `${rates}: above ${from} kHz ${kind} loses ${TOPS[role === null ? '' : topKind(role)] ?? 'its top'}: ${dB(db)}, ${heardAs(db)}.` }
}

function monoChange({ variant }: PlanRow): Change {
  const { fold, lostDb: { stereo: db } } = variant!
  if (fold === 'same') return { what: 'mono', db, words: 'Both sides are the same: one is enough.' }
  const how = fold === 'sum' ? 'Both sides are added up' : `Only the ${fold} side stays, since both would cancel each other`
  return { what: 'mono', db, words: `${how}. What they differ in goes: ${dB(db)}, ${heardAs(db)}.` }
}

function dropped({ unit, by }: PlanRow): Change {
  const db = by?.distanceDb ?? 0
  const where = unit.turn === null ? `at ${unit.highVelocity === 0 ? 'another value' : `velocities ${unit.lowVelocity} to ${unit.highVelocity}`}` : `take ${unit.turn}`
  const far = db < 1.5 ? 'hardly differs' : db < 4 ? 'differs somewhat' : 'sounds otherwise'
  return { what: 'dropped', db: null, words: `Dropped (${where}): the one that takes its place ${far}, by ${db.toFixed(1)} dB on average.` }
}

/** The largest single loss of a sample, in dB; null where none is known. */
export function worstDb(changes: readonly Change[]): number | null {
  const warnings = changes.flatMap(({ db }) => db !== null && db > NOTHING_DB ? [db] : [])
  return warnings.length > 0 ? Math.max(...warnings) : null
}

/** What comes of a plan in a line: what is left out, the greatest loss that is heard of what stays, and settings that do not come along. */
export function outcomeWords(kit: Kit, { rows, warnings }: Pick<FitPlan, 'rows' | 'warnings'>): string {
  const count = (state: PlanRow['state']) => rows.filter(row => row.state === state).length
  const [kept, leftOut] = [count('kept'), count('left out')]
  const worst = Math.max(NOTHING_DB, ...rows.filter(row => row.state === 'kept').map(row => worstDb(changesOf(kit, row)) ?? NOTHING_DB))
  return [
    kept === rows.length ? `${kept === 1 ? '' : 'all '}${counted(kept, 'sample')} kept` : `${counted(count('dropped'), 'sample')} dropped, ${leftOut} left out`,
    ...worst > UNHEARD_DB ? [`greatest loss ${dB(worst)}, ${heardAs(worst)}`] : [],
    ...warnings.length > 0 ? [`${counted(warnings.length, 'setting')} not supported`] : [],
  ].join('; ')
}

export function dB(value: number): string {
  return `${value.toFixed(0)} dB`.replace('-0 dB', '0 dB')
}

export function rateWords(rate: number): string {
  return String(Number((rate / 1000).toFixed(3)))
}

/** A number of bytes as a target counts them. */
export function bytesWords(bytes: number, unit: 'MB' | 'MiB'): string {
  const whole = unit === 'MB' ? 1e6 : 2 ** 20
  return `${(bytes / whole).toFixed(bytes < whole ? 2 : 1)} ${unit}`
}

export const METER_NAMES: Readonly<Record<Meter, string>> = { pads: 'Pads', notes: 'Notes', layers: 'Layers a pad', samples: 'Samples', seconds: 'Audio', bytes: 'Size', longestSeconds: 'Longest' }

/** A reading of a meter with its unit. */
export function meterWords(meter: Meter, value: number, target: Target): string {
  if (meter === 'bytes') return bytesWords(value, target.limits.unit)
  if (meter === 'seconds' || meter === 'longestSeconds') return `${value.toFixed(2)} s`
  return String(value)
}

const HELD_WORDS: Readonly<Record<Held, string>> = { stereo: 'both sides', length: 'the length', bandwidth: 'the sample rate', layers: 'the layers', pad: 'the pad' }
/** So many pads are named of those that a limit is short for. */
const MOST_NAMED = 4

/** A limit that cannot be met: by how much, by which pads, and the least change that would be enough. */
export function shortfallWords({ meter, needed, room, pads, releases }: Shortfall, target: Target): string {
  const say = (value: number) => meterWords(meter, value, target)
  const named = pads.length > 0 ? ` Needed by ${listed(pads.map(pad => `${padLabel(pad.padIndex)} (${say(pad.needed)})`), MOST_NAMED)}.` : ''
  const change = releases.length > 0
    ? `To make it fit, no longer hold ${listed(releases.map(({ padIndex, held }) => held === 'pad' ? `pad ${padLabel(padIndex)}` : `${HELD_WORDS[held]} of ${padLabel(padIndex)}`))}.`
    : `To make it fit, use a target with ${say(needed)}${pads.length > 1 ? ', or remove some of these pads' : ''}.`
  return `${METER_NAMES[meter]}: at least ${say(needed)} needed, ${target.name} has ${say(room)} (${say(needed - room)} too much).${named} ${change}`
}

export const WRITER_NAMES: Readonly<Record<Writer, string>> = { 'samples': 'a folder of WAVE files', 'sfz': 'an SFZ file', 'sf2': 'a SoundFont bank', 'dls-1': 'a DLS collection, level 1', 'dls-2': 'a DLS collection, level 2', 'package': 'a kit package' }

export function depthWords(depth: SampleDepth): string {
  return depth === 'float' ? '32-bit float' : `${depth} bit`
}

/** A target described by its own limits. */
export function aboutTarget(target: Target): string {
  const { audio, limits, layers, turns } = target
  const most = limits.seconds === null && limits.bytes === null && limits.samples === null ? [] : [
    ...limits.bytes === null ? [] : [bytesWords(limits.bytes, limits.unit)],
    ...limits.seconds === null ? [] : [`${limits.seconds} s of audio`],
    ...limits.samples === null ? [] : [counted(limits.samples, 'sample')],
  ]
  return [
    `${capitalised(WRITER_NAMES[target.writes])} with ${counted(slotsOf(target), 'pad')}`,
    `${counted(layers, 'velocity layer')}${turns > 1 ? ` of ${counted(turns, 'take')}` : ''} each`,
    `${audio.channels === 1 ? 'mono' : 'stereo'}, ${listed(audio.depths.map(depthWords))}, up to ${rateWords(audio.highestRate)} kHz`,
    ...most.length > 0 ? [`at most ${listed(most)}`] : [],
    ...limits.longestSeconds === null ? [] : [`samples up to ${limits.longestSeconds} s`],
  ].join('; ') + '.'
}

/** What becomes of the pads of a target that a kit leaves empty. */
export function emptyWords(target: Target, usage: Pick<Usage, 'pads'>): string {
  const free = Math.max(0, slotsOf(target) - usage.pads)
  if (free === 0) return `All ${slotsOf(target)} pads of ${target.name} are used.`
  return `${free} of ${slotsOf(target)} pads of ${target.name} stay empty: ${target.empty === 'erased' ? 'what is on them now is erased on sending' : 'what is on them now is kept'}.`
}

/** That all samples are written lower, by so many dB below 0. */
export function loweredWords(loweredDb: number): string {
  return `All samples are lowered by ${(-loweredDb).toFixed(1)} dB, so that none clips.`
}
