import { PLAIN_ENVELOPE, type Articulation, type Envelope, type Filter } from '../../kit/document'
import type { Loop } from '../zones/loops'
import type { Zone, ZoneSample } from '../zones/zone'
import { Articulations } from './articulations'
import { pathBelow } from './paths'
import type { Tally } from '../zones/tally'
import type { SfzFile, SfzRegion } from './parse'
import { Opcodes } from './values'

/** A sample as an SFZ region asks for it, with a loop where it is to go round. */
export interface WantedSample {
  /** Below the folder of the SFZ file. */
  readonly path: string
  /** Undefined: it plays once. Ends in `null` stand for the loop that the file itself states. */
  readonly loop?: { readonly startFrame: number | null, readonly endFrame: number | null }
}

/** What a file says of itself, for regions that lean on it. */
export interface KnownSample extends ZoneSample {
  readonly loop?: Loop
  readonly rootNote?: number
}

/** How an SFZ region's sample is found: its path, and whether a loop is written out. Undefined for one that cannot be played. */
export interface RegionSample {
  readonly region: SfzRegion
  readonly wanted: WantedSample
}

const NO_LOOP = new Set(['no_loop', 'one_shot'])
/** Velocities have no effect on anything but the level, by these at their defaults. */
const DEFAULTS: Readonly<Record<string, string>> = { trigger: 'attack', xf_velcurve: 'power', rt_decay: '0', delay: '0', lochan: '1', hichan: '16', count: '0', ampeg_delay: '0', ampeg_start: '0', fil_keytrack: '0', pitch_random: '0', amp_random: '0', pitch_veltrack: '0', fil_veltrack: '0', width: '100', position: '0' }
/** Words about a region that change nothing in its sound. */
const MUTE = /^(region|group|master|global)_label$/
/** What moves a sound only where a player's own controls are moved. */
const UNHEARD = /(^|_)(on)?cc\d+$|_curvecc\d+$|_smoothcc\d+$|^hint_|^bend_|_chanaft|_polyaft/
const FILTERS: Readonly<Record<string, Filter['type']>> = { lpf_1p: 'low-pass', lpf_2p: 'low-pass', hpf_1p: 'high-pass', hpf_2p: 'high-pass', bpf_1p: 'band-pass', bpf_2p: 'band-pass' }
const EXACT_FILTERS = new Set(['lpf_2p', 'hpf_2p', 'bpf_2p'])

/**
 * The samples that regions use; regions that can't have one are reported.
 *
 * @param folder that of the SFZ file, below the folder that was given
 */
export function samplesOfRegions({ regions }: SfzFile, folder: string, tally: Tally): RegionSample[] {
  return regions.flatMap((region): RegionSample[] => {
    const sample = region.opcodes.get('sample')
    if (sample === undefined || sample === '') return tell(tally, 'sample', 'A region without a sample was left out.')
    if (sample.startsWith('*')) return tell(tally, sample, `The made sound ${sample} is no sample, and was left out.`)
    const path = pathBelow(region.defaultPath + sample, folder)
    if (path === undefined) return tell(tally, sample, `The path ${sample} leaves the folder that was given, and was not followed.`)
    if (region.opcodes.get('trigger') !== undefined && region.opcodes.get('trigger') !== 'attack') return tell(tally, `trigger=${region.opcodes.get('trigger')}`, 'Regions that sound at anything but a hit were left out.')
    if (Number(region.opcodes.get('end')) === -1) return tell(tally, 'end=-1', 'A region that is switched off was left out.')
    if (Number(region.opcodes.get('hikey')) === -1) return tell(tally, 'hikey=-1', 'A region that no key sounds was left out.')
    const wrong = NOTES.find(name => isNoNote(region, name))
    if (wrong) return tell(tally, `${wrong}=${region.opcodes.get(wrong)}`, 'That is no note, and its region was left out.')
    return [{ region, wanted: { path, ...loopOf(region) } }]
  })
}

const NOTES = ['key', 'lokey', 'hikey', 'pitch_keycenter'] as const

/** A region with a note that is not understood would else sound on all. */
function isNoNote({ opcodes }: SfzRegion, name: typeof NOTES[number]): boolean {
  const value = opcodes.get(name)
  return value !== undefined && !(name === 'pitch_keycenter' && value === 'sample') && new Opcodes(opcodes).note(name) === undefined
}

function tell(tally: Tally, where: string, what: string): [] {
  tally.add(where, what, 'lost')
  return []
}

function loopOf({ opcodes }: SfzRegion): Pick<WantedSample, 'loop'> {
  const mode = opcodes.get('loop_mode') ?? opcodes.get('loopmode')
  if (mode !== undefined && NO_LOOP.has(mode)) return {}
  const number = (...names: string[]) => {
    const value = names.map(name => Number(opcodes.get(name) ?? NaN)).find(Number.isFinite)
    return value === undefined ? null : Math.max(0, Math.trunc(value))
  }
  const [start, end] = [number('loop_start', 'loopstart'), number('loop_end', 'loopend')]
  return { loop: { startFrame: start, endFrame: end === null ? null : end + 1 } }
}

/** What regions become, with what they share. */
export interface ZonesOfRegions {
  readonly zones: readonly Zone[]
  readonly articulations: readonly Articulation[]
  readonly articulation: string | null
  /** Voices that groups have at once. */
  readonly groupVoices: ReadonlyMap<number, number>
}

/**
 * Turns regions into zones. What an opcode says that a kit cannot, and opcodes that are not known, are reported.
 * Sources: SFZ v1 opcodes (references.md) with their defaults; `note_polyphony`, `direction`, `*_volume`, `off_time`, `sw_default`
 * and labels as later players have them (common practice).
 *
 * @param sampleOf the sample that a region asked for, and its place; undefined where it is missing
 */
export function zonesOfRegions(found: readonly RegionSample[], sampleOf: (wanted: WantedSample) => { readonly index: number, readonly sample: KnownSample } | undefined, tally: Tally): ZonesOfRegions {
  const shared: Shared = { tally, articulations: new Articulations(tally), groupVoices: new Map() }
  const zones = found.flatMap(({ region, wanted }) => {
    const known = sampleOf(wanted)
    return known ? [zoneOf(region, known.index, known.sample, wanted, shared)] : []
  })
  return { zones, ...shared.articulations.made(), groupVoices: shared.groupVoices }
}

interface Shared {
  readonly tally: Tally
  readonly articulations: Articulations
  readonly groupVoices: Map<number, number>
}

function zoneOf(region: SfzRegion, index: number, sample: KnownSample, wanted: WantedSample, shared: Shared): Zone {
  const { tally } = shared
  const op = new Opcodes(region.opcodes)
  op.text('sample', 'loop_mode', 'loopmode', 'loop_start', 'loopstart', 'loop_end', 'loopend', 'trigger', 'seq_length', 'key')
  const shift = (note: number) => Math.max(0, Math.min(127, note + region.noteOffset))
  const [lowNote, highNote] = [shift(op.note('lokey') ?? 0), shift(op.note('hikey') ?? 127)]
  const centre = op.text('pitch_keycenter') === 'sample' ? sample.rootNote : op.note('pitch_keycenter')
  const tuneCents = (op.number('tune', 'pitch') ?? 0) + 100 * (op.number('transpose') ?? 0)
  const amplitude = op.number('amplitude')
  const gainDb = (op.number('volume', 'gain') ?? 0) + ['group_volume', 'master_volume', 'global_volume'].reduce((sum, name) => sum + (op.number(name) ?? 0), 0)
    + (amplitude === undefined ? 0 : 20 * Math.log10(Math.max(1e-5, amplitude / 100)))
  const end = op.number('end')
  const mode = region.opcodes.get('loop_mode') ?? region.opcodes.get('loopmode')
  const isWrittenOut = wanted.loop !== undefined && sample.loop !== undefined
  const envelope = envelopeOf(op, tally)
  const zone: Zone = {
    sample: index,
    name: op.text('region_label', 'group_label') ?? '',
    lowNote: Math.min(lowNote, highNote), highNote: Math.max(lowNote, highNote),
    rootNote: centre === undefined ? 60 : shift(centre),
    keytrackCents: op.number('pitch_keytrack') ?? 100,
    ...velocitiesOf(op),
    ...velocityOf(op),
    gainDb,
    pan: (op.number('pan') ?? 0) / 100,
    tuneCents,
    startFrame: op.number('offset') ?? 0,
    // A sample with its loop written out is longer than the region's end says.
    endFrame: end === undefined || isWrittenOut ? sample.frames : end + 1,
    fadeInFrames: 0, fadeOutFrames: 0,
    reverse: op.text('direction') === 'reverse',
    play: mode === 'one_shot' ? 'one-shot' : 'gated',
    envelope,
    filter: filterOf(op, tally),
    ...chokeOf(op, envelope, tally),
    turn: op.number('seq_position') ?? (region.opcodes.has('seq_length') ? 1 : null),
    chance: chanceOf(op),
    choice: choiceOf(op, tally),
    articulation: shared.articulations.of(op, shift),
    output: Math.max(0, Math.trunc(op.number('output') ?? 0)),
    polyphony: polyphonyOf(op, shared.groupVoices),
  }
  if (isWrittenOut) tally.add('loop_mode', 'A loop was written out for 4 s: a kit has no loops.')
  tellRest(op, region, tally)
  return zone
}

/** Source: SFZ v1, `polyphony` of a group; `note_polyphony` as later players have it (common practice). */
function polyphonyOf(op: Opcodes, groupVoices: Map<number, number>): number | null {
  const [ofNote, ofGroup, group] = [op.number('note_polyphony'), op.number('polyphony'), op.number('group')]
  if (ofGroup === undefined || ofGroup < 1) return ofNote ?? null
  if (group === undefined || group === 0) return ofNote ?? ofGroup
  groupVoices.set(group, Math.min(groupVoices.get(group) ?? Infinity, ofGroup))
  return ofNote ?? null
}

function chanceOf(op: Opcodes): Zone['chance'] {
  const [low, high] = [Math.max(0, op.number('lorand') ?? 0), Math.min(1, op.number('hirand') ?? 1)]
  return (low <= 0 && high >= 1) || low >= high ? null : { low, high }
}

const CURVE = 'amp_velcurve_'

function velocityOf(op: Opcodes): Pick<Zone, 'velocityTrack' | 'velocityCurve'> {
  const points = op.numbered(CURVE).map(name => ({ velocity: Number(name.slice(CURVE.length)), level: Math.max(0, Math.min(1, op.number(name) ?? 0)) })).filter(({ velocity }) => velocity <= 127)
  return {
    velocityTrack: Math.max(-1, Math.min(1, (op.number('amp_veltrack') ?? 100) / 100)),
    velocityCurve: points.length === 0 ? null : [...new Map(points.map(point => [point.velocity, point])).values()].sort((a, b) => a.velocity - b.velocity),
  }
}

function velocitiesOf(op: Opcodes): Pick<Zone, 'lowVelocity' | 'highVelocity' | 'fadeInVelocities' | 'fadeOutVelocities'> {
  const [inLow, inHigh, outLow, outHigh] = [op.number('xfin_lovel'), op.number('xfin_hivel'), op.number('xfout_lovel'), op.number('xfout_hivel')]
  const lowVelocity = Math.max(1, op.number('lovel') ?? 1, inHigh === undefined ? 1 : (inLow ?? 0) + 1)
  const highVelocity = Math.min(127, op.number('hivel') ?? 127, outLow === undefined ? 127 : (outHigh ?? 127) - 1)
  return {
    lowVelocity: Math.min(lowVelocity, highVelocity), highVelocity,
    fadeInVelocities: inHigh === undefined ? 0 : Math.max(0, inHigh - lowVelocity),
    fadeOutVelocities: outLow === undefined ? 0 : Math.max(0, highVelocity - outLow),
  }
}

function envelopeOf(op: Opcodes, tally: Tally): Envelope {
  const sustain = op.number('ampeg_sustain')
  const decay = op.number('ampeg_decay')
  const isHeld = sustain === undefined || sustain >= 100
  if (!isHeld && sustain > 0) tally.add('ampeg_sustain', `A sustain of ${sustain} % is not carried over: ${sustain >= 50 ? 'the sound stays at its level' : 'it falls to silence'}.`)
  return {
    attackSeconds: op.number('ampeg_attack') ?? 0,
    holdSeconds: op.number('ampeg_hold') ?? 0,
    decaySeconds: isHeld || sustain >= 50 || decay === undefined ? null : Math.max(0.001, decay),
    releaseSeconds: Math.max(0.001, op.number('ampeg_release') ?? PLAIN_ENVELOPE.releaseSeconds),
  }
}

function filterOf(op: Opcodes, tally: Tally): Filter | null {
  const type = op.text('fil_type', 'filtype') ?? 'lpf_2p'
  const cutoffHz = op.number('cutoff')
  const resonanceDb = op.number('resonance') ?? 0
  if (cutoffHz === undefined) return null
  const known = FILTERS[type]
  if (!known) {
    tally.add(`fil_type=${type}`, `A filter of the type ${type} is not carried over.`)
    return null
  }
  if (!EXACT_FILTERS.has(type)) tally.add(`fil_type=${type}`, `A filter of the type ${type} became one of the second order.`)
  return { type: known, cutoffHz, resonanceDb }
}

/**
 * The group of a region, and the one that cuts it off. Source: SFZ v1, `group`, `off_by`, `off_mode`; `off_time` as later players
 * have it (common practice).
 */
function chokeOf(op: Opcodes, { releaseSeconds }: Envelope, tally: Tally): Pick<Zone, 'chokeGroup' | 'chokedBy' | 'chokeSeconds'> {
  const group = op.number('group') ?? 0
  const offBy = op.number('off_by', 'offby') ?? 0
  const mode = op.text('off_mode', 'offmode') ?? 'fast'
  const time = op.number('off_time')
  if (!OFF_MODES.has(mode)) tally.add(`off_mode=${mode}`, `The way ${mode} to cut a sound off is not known; it is cut at once.`)
  const chokeSeconds = offBy === 0 ? 0 : mode === 'normal' ? releaseSeconds : mode === 'time' ? Math.max(0, time ?? 0) : 0
  return { chokeGroup: group === 0 ? null : group, chokedBy: offBy === 0 ? group === 0 ? null : [] : offBy === group ? null : [offBy], chokeSeconds }
}

const OFF_MODES = new Set(['fast', 'normal', 'time'])

/** A controller chooses a region while it lies in a stretch (`loccN`); one that is triggered by moving it (`on_loccN`) is not supported, and reported. */
function choiceOf(op: Opcodes, tally: Tally): Zone['choice'] {
  for (const name of [...op.numbered('on_locc'), ...op.numbered('on_hicc')]) {
    op.text(name)
    tally.add(name.replace(/_hi/, '_lo'), 'Moving a controller sounds nothing in a kit; the region sounds by its keys alone.', 'lost')
  }
  const names = [...op.numbered('locc'), ...op.numbered('hicc')]
  if (names.length === 0) return null
  for (const name of names) op.text(name)
  const choices = [...new Set(names.map(name => Number(name.slice(4))))].map(controller => ({ controller, low: op.number(`locc${controller}`) ?? 0, high: op.number(`hicc${controller}`) ?? 127 })).filter(({ low, high }) => low > 0 || high < 127)
  const [first, ...others] = choices
  for (const { controller } of others) tally.add(`locc${controller}`, `Controller ${controller} chooses too; of several only the first is carried over.`, 'lost')
  return first && first.controller <= 127 ? first : null
}

function tellRest(op: Opcodes, region: SfzRegion, tally: Tally): void {
  for (const name of op.rest) {
    const value = region.opcodes.get(name)!
    if (DEFAULTS[name] === value || Number(DEFAULTS[name]) === Number(value) || MUTE.test(name)) continue
    tally.add(name, `${name} has no place in a kit, and was left out.`, UNHEARD.test(name) ? 'unheard' : 'changed')
  }
}
