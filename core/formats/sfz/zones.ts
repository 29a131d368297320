import { groupBy } from '../../groupBy'
import { PLAIN_ENVELOPE, type Envelope, type Filter } from '../../kit/document'
import type { Loop } from '../zones/loops'
import type { NotCarried, Zone, ZoneSample } from '../zones/zone'
import { pathBelow } from './paths'
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
const DEFAULTS: Readonly<Record<string, string>> = { amp_veltrack: '100', trigger: 'attack', off_mode: 'fast', xf_velcurve: 'power', rt_decay: '0', delay: '0', lochan: '1', hichan: '16', count: '0', ampeg_delay: '0', ampeg_start: '0', fil_keytrack: '0', pitch_random: '0', amp_random: '0', pitch_veltrack: '0', fil_veltrack: '0', width: '100', position: '0' }
/** Words about a region that change nothing in its sound. */
const MUTE = /^(region|group|master|global)_label$/
const FILTERS: Readonly<Record<string, Filter['type']>> = { lpf_1p: 'low-pass', lpf_2p: 'low-pass', hpf_1p: 'high-pass', hpf_2p: 'high-pass', bpf_1p: 'band-pass', bpf_2p: 'band-pass' }
const EXACT_FILTERS = new Set(['lpf_2p', 'hpf_2p', 'bpf_2p'])

/** What is told of one thing, gathered over all regions. */
class Tally {
  private readonly counts = new Map<string, { what: string, count: number }>()

  add(where: string, what: string): void {
    const held = this.counts.get(where)
    if (held) held.count++
    else this.counts.set(where, { what, count: 1 })
  }

  get list(): NotCarried[] {
    return [...this.counts].map(([where, { what, count }]) => ({ where, what: `${what}${count > 1 ? ` (${count} regions)` : ''}` }))
  }
}

/** The samples that regions ask for, each region with its own; those that can have none are told. */
export function samplesOfRegions({ regions }: SfzFile): { readonly found: readonly RegionSample[], readonly notCarried: readonly NotCarried[] } {
  const tally = new Tally()
  const found = regions.flatMap((region): RegionSample[] => {
    const sample = region.opcodes.get('sample')
    if (sample === undefined || sample === '') return tell(tally, 'sample', 'A region without a sample was left out.')
    if (sample.startsWith('*')) return tell(tally, sample, `The made sound ${sample} is no sample, and was left out.`)
    const path = pathBelow(region.defaultPath + sample)
    if (path === undefined) return tell(tally, sample, `The path ${sample} leaves the folder of the SFZ file, and was not followed.`)
    if (region.opcodes.get('trigger') !== undefined && region.opcodes.get('trigger') !== 'attack') return tell(tally, `trigger=${region.opcodes.get('trigger')}`, 'Regions that sound at anything but a hit were left out.')
    if (Number(region.opcodes.get('end')) === -1) return tell(tally, 'end=-1', 'A region that is switched off was left out.')
    if (Number(region.opcodes.get('hikey')) === -1) return tell(tally, 'hikey=-1', 'A region that no key sounds was left out.')
    return [{ region, wanted: { path, ...loopOf(region) } }]
  })
  return { found, notCarried: tally.list }
}

function tell(tally: Tally, where: string, what: string): [] {
  tally.add(where, what)
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

/**
 * Turns regions into zones. What an opcode says that a kit cannot, and opcodes that are not known, are told.
 * Sources: SFZ v1 opcodes (references.md) with their defaults; `note_polyphony`, `direction`, `*_volume` and labels as later
 * players have them (common practice).
 *
 * @param sampleOf the sample that a region asked for, and its place; undefined where it is missing
 */
export function zonesOfRegions(found: readonly RegionSample[], sampleOf: (wanted: WantedSample) => { readonly index: number, readonly sample: KnownSample } | undefined): { readonly zones: readonly Zone[], readonly notCarried: readonly NotCarried[] } {
  const tally = new Tally()
  const made = found.flatMap(({ region, wanted }) => {
    const known = sampleOf(wanted)
    return known ? [{ zone: zoneOf(region, known.index, known.sample, wanted, tally), region }] : []
  })
  return { zones: turnsOfRandom(made, tally), notCarried: tally.list }
}

function zoneOf(region: SfzRegion, index: number, sample: KnownSample, wanted: WantedSample, tally: Tally): Zone {
  const op = new Opcodes(region.opcodes)
  op.text('sample', 'loop_mode', 'loopmode', 'loop_start', 'loopstart', 'loop_end', 'loopend', 'trigger', 'lorand', 'hirand', 'seq_length')
  const shift = (note: number) => Math.max(0, Math.min(127, note + region.noteOffset))
  const key = op.note('key')
  const [lowNote, highNote] = [shift(op.note('lokey') ?? key ?? 0), shift(op.note('hikey') ?? key ?? 127)]
  const centre = op.text('pitch_keycenter') === 'sample' ? sample.rootNote : op.note('pitch_keycenter')
  const velocities = velocitiesOf(op)
  const tuneCents = (op.number('tune', 'pitch') ?? 0) + 100 * (op.number('transpose') ?? 0)
  const amplitude = op.number('amplitude')
  const gainDb = (op.number('volume', 'gain') ?? 0) + ['group_volume', 'master_volume', 'global_volume'].reduce((sum, name) => sum + (op.number(name) ?? 0), 0)
    + (amplitude === undefined ? 0 : 20 * Math.log10(Math.max(1e-5, amplitude / 100)))
  const end = op.number('end')
  const mode = region.opcodes.get('loop_mode') ?? region.opcodes.get('loopmode')
  const zone: Zone = {
    sample: index,
    name: op.text('region_label', 'group_label') ?? '',
    lowNote: Math.min(lowNote, highNote), highNote: Math.max(lowNote, highNote),
    rootNote: centre === undefined ? key === undefined ? 60 : shift(key) : shift(centre),
    keytrackCents: op.number('pitch_keytrack') ?? 100,
    ...velocities,
    gainDb,
    pan: (op.number('pan') ?? 0) / 100,
    tuneCents,
    startFrame: op.number('offset') ?? 0,
    // A sample with its loop written out is longer than the region's end says.
    endFrame: end === undefined || wanted.loop ? sample.frames : end + 1,
    fadeInFrames: 0, fadeOutFrames: 0,
    reverse: op.text('direction') === 'reverse',
    play: mode === 'one_shot' ? 'one-shot' : 'gated',
    envelope: envelopeOf(op, tally),
    filter: filterOf(op, tally),
    chokeGroup: chokeOf(op, tally),
    turn: op.number('seq_position') ?? (region.opcodes.has('seq_length') ? 1 : null),
    choice: choiceOf(op, tally),
    output: Math.max(0, Math.trunc(op.number('output') ?? 0)),
    polyphony: op.number('note_polyphony', 'polyphony') ?? null,
  }
  if (wanted.loop && sample.loop) tally.add('loop_mode', 'A loop was written out for 4 s: a kit has no loops.')
  tellRest(op, region, tally)
  return zone
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

function chokeOf(op: Opcodes, tally: Tally): number | null {
  const [group, offBy] = [op.number('group'), op.number('off_by', 'offby')]
  if (offBy === undefined || offBy === 0) return null
  if (group !== offBy) tally.add('off_by', 'Regions that are cut off by another group than their own are in one choke group with it.')
  return offBy
}

function choiceOf(op: Opcodes, tally: Tally): Zone['choice'] {
  const low = op.matching(/^(on_)?locc\d+$/)
  const high = op.matching(/^(on_)?hicc\d+$/)
  const controllers = [...new Set([...low, ...high].map(name => name.replace(/\D/g, '')))]
  const [first] = controllers
  if (first === undefined) return null
  if (controllers.length > 1) tally.add('locc', 'Only the first of several controllers that choose a region is carried over.')
  const choice = { low: op.number(`locc${first}`) ?? 0, high: op.number(`hicc${first}`) ?? 127 }
  return choice.low <= 0 && choice.high >= 127 ? null : choice
}

function tellRest(op: Opcodes, region: SfzRegion, tally: Tally): void {
  for (const name of op.rest) {
    const value = region.opcodes.get(name)!
    if (DEFAULTS[name] === value || Number(DEFAULTS[name]) === Number(value) || MUTE.test(name)) continue
    tally.add(name, `${name} has no place in a kit, and was left out.`)
  }
}

/** Regions that sound by chance take turns, in the order of their chances. */
function turnsOfRandom(made: readonly { readonly zone: Zone, readonly region: SfzRegion }[], tally: Tally): readonly Zone[] {
  const isRandom = ({ opcodes }: SfzRegion) => opcodes.has('lorand') || opcodes.has('hirand')
  const chance = ({ opcodes }: SfzRegion) => Number(opcodes.get('lorand') ?? 0)
  const rivals = groupBy(made.filter(({ region }) => isRandom(region)), ({ zone }) => `${zone.lowNote} ${zone.lowVelocity} ${zone.highVelocity}`)
  if (rivals.size > 0) tally.add('lorand', 'Regions that sound by chance take turns in order.')
  return made.map(({ zone, region }) => {
    if (!isRandom(region)) return zone
    const order = [...new Set(rivals.get(`${zone.lowNote} ${zone.lowVelocity} ${zone.highVelocity}`)!.map(other => chance(other.region)))].sort((a, b) => a - b)
    return { ...zone, turn: order.indexOf(chance(region)) + 1 }
  })
}
