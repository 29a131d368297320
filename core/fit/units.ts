import { groupBy } from '../groupBy'
import { chosenAlternate, type Kit, type Layer, type Pad } from '../kit/document'
import { padLabel } from '../kit/padLabel'
import { holds, isLossless, type Feature, type Target } from './target'

/** One sample of a pad as a target would have it: one layer, or several that sound together and become one. */
export interface Unit {
  /** Layers of the pad that it is made of. */
  readonly layers: readonly number[]
  readonly lowVelocity: number
  readonly highVelocity: number
  /** Its place among the takes of its velocities, from 1; null for one that sounds at every hit. */
  readonly turn: number | null
}

/** What a target has no words for, told pad by pad before anything is written. */
export interface Told {
  /** Null for the kit as a whole. */
  readonly padIndex: number | null
  readonly feature: Feature | 'kit polyphony' | 'choke groups' | 'pads' | 'velocity ranges'
  readonly what: string
}

/** Settings that are put into the samples of a pad, each in the order in which the engine applies them. */
export const BAKED = ['tune', 'filter', 'drive', 'envelope'] as const
export type Baked = typeof BAKED[number]

/** A pad as a target would have it, before anything is made smaller. */
export interface PadUnits {
  readonly padIndex: number
  readonly units: readonly Unit[]
  readonly baked: ReadonlySet<Baked>
  /** Its pan goes into its samples too. */
  readonly bakesPan: boolean
  readonly told: readonly Told[]
}

/** Breaks the filled pads of a kit into the samples that a target would need for them. */
export function unitsOf(kit: Kit, target: Target): PadUnits[] {
  return kit.pads.flatMap((pad, padIndex) => {
    if (pad.layers.length === 0) return []
    const told: Told[] = []
    const tell = (feature: Told['feature'], what: string) => void told.push({ padIndex, feature, what })
    const units = isLossless(target) || (pad.alternate !== null && holds(target, 'alternates'))
      ? pad.layers.map(({ lowVelocity, highVelocity, turn }, i) => ({ layers: [i], lowVelocity, highVelocity, turn }))
      : unitsOfPad(pad, target, tell)
    tellRest(kit, pad, padIndex, target, tell)
    return [{ padIndex, units: units.toSorted(inOrder), baked: bakedOf(pad, target), bakesPan: bakesPan(pad, target), told }]
  })
}

/** What is told of the kit as a whole. */
export function toldOfKit(kit: Kit, target: Target): Told[] {
  const told: Told[] = []
  if (target.polyphony !== null && kit.polyphony > target.polyphony) told.push({ padIndex: null, feature: 'kit polyphony', what: `The kit may sound ${kit.polyphony} voices at once; ${target.name} has ${target.polyphony}, and cuts off the oldest.` })
  const groups = new Set(kit.pads.filter(pad => pad.layers.length > 0 && pad.chokeGroup !== null).map(pad => pad.chokeGroup))
  if (holds(target, 'chokes') && groups.size > target.chokeGroups) told.push({ padIndex: null, feature: 'choke groups', what: `The kit has ${groups.size} choke groups; ${target.name} has ${target.chokeGroups}. The pads of the last ones are in none.` })
  return told
}

/** Choke groups in the order of their numbers, as many as a target has. */
export function keptGroups(kit: Kit, target: Target): ReadonlyMap<number, number> {
  if (!holds(target, 'chokes')) return new Map()
  const groups = [...new Set(kit.pads.filter(pad => pad.layers.length > 0).flatMap(pad => pad.chokeGroup ?? []))].sort((a, b) => a - b)
  const isWithin = groups.every(group => group <= target.chokeGroups)
  return new Map(groups.slice(0, target.chokeGroups).map((group, i) => [group, isWithin ? group : i + 1]))
}

/** Softest first, those of one range side by side. */
function inOrder(a: Unit, b: Unit): number {
  return a.lowVelocity - b.lowVelocity || a.highVelocity - b.highVelocity || (a.turn ?? 0) - (b.turn ?? 0)
}

type Tell = (feature: Told['feature'], what: string) => void

function unitsOfPad(pad: Pad, target: Target, tell: Tell): Unit[] {
  const chosen = chosenAlternate(pad)
  if (chosen !== undefined) {
    tell('alternates', `Of ${pad.layers.length} alternates only the chosen one is kept.`)
    return [{ layers: [chosen], lowVelocity: 1, highVelocity: 127, turn: null }]
  }
  const ranged = disjoint(pad, target, tell)
  const byRange = groupBy(pad.layers.map((_, i) => i), i => `${ranged[i]!.low} ${ranged[i]!.high}`)
  return [...byRange.values()].flatMap((indexes) => {
    const { low: lowVelocity, high: highVelocity } = ranged[indexes[0]!]!
    const always = indexes.filter(i => pad.layers[i]!.turn === null)
    const takes = indexes.filter(i => pad.layers[i]!.turn !== null)
    if (holds(target, 'stacks')) return indexes.map(i => ({ layers: [i], lowVelocity, highVelocity, turn: pad.layers[i]!.turn }))
    // Layers that share a turn sound together; those without one sound with every take.
    const byTurn = [...groupBy(takes, i => pad.layers[i]!.turn).entries()].sort(([a], [b]) => a! - b!)
    if (byTurn.length === 0) return [{ layers: always, lowVelocity, highVelocity, turn: null }]
    return byTurn.map(([turn, own]) => ({ layers: [...always, ...own].sort((a, b) => a - b), lowVelocity, highVelocity, turn }))
  })
}

/** Velocity ranges that do not overlap, for targets that sound one range at a time; the boundary lies in the middle of what was shared. */
function disjoint(pad: Pad, target: Target, tell: Tell): { low: number, high: number }[] {
  const own = pad.layers.map(({ lowVelocity: low, highVelocity: high }) => ({ low, high }))
  const fades = pad.layers.some(layer => layer.fadeInVelocities > 0 || layer.fadeOutVelocities > 0)
  if (holds(target, 'crossfade')) return own
  if (fades) tell('crossfade', 'Layers that fade into one another by velocity change at one velocity.')
  if (holds(target, 'stacks') && !fades) return own
  const ranges = [...new Map(own.map(range => [`${range.low} ${range.high}`, { ...range }])).values()].sort((a, b) => a.low - b.low || a.high - b.high)
  const before = ranges.map(range => ({ ...range }))
  for (let i = 1; i < ranges.length; i++) {
    const [below, above] = [ranges[i - 1]!, ranges[i]!]
    if (above.low > below.high) continue
    const middle = Math.floor((above.low + below.high) / 2)
    if (above.high <= below.high) above.high = below.high
    below.high = Math.max(below.low, Math.min(below.high, middle))
    above.low = Math.min(above.high, below.high + 1)
  }
  const moved = ranges.some((range, i) => range.low !== before[i]!.low || range.high !== before[i]!.high)
  if (moved && !fades) tell('velocity ranges', 'Velocity ranges that overlap are cut where they meet.')
  return own.map((range) => {
    const at = before.findIndex(known => known.low === range.low && known.high === range.high)
    return ranges[at]!
  })
}

/** Settings that have to go into the samples. Those that are applied before one of them go with it. */
function bakedOf(pad: Pad, target: Target): ReadonlySet<Baked> {
  if (isLossless(target)) return new Set()
  const { attackSeconds, decaySeconds } = pad.envelope
  const used: Readonly<Record<Baked, boolean>> = {
    tune: pad.tuneCents !== 0 || pad.layers.some(layer => layer.tuneCents !== 0),
    filter: pad.filter !== null,
    drive: pad.driveDb > 0,
    envelope: attackSeconds > 0 || decaySeconds !== null,
  }
  const isHeld: Readonly<Record<Baked, boolean>> = {
    tune: holds(target, 'tune'),
    filter: holds(target, 'filter') || (holds(target, 'low-pass') && pad.filter?.type === 'low-pass' && pad.filter.resonanceDb === 0),
    drive: holds(target, 'drive'),
    envelope: holds(target, 'envelope'),
  }
  const last = BAKED.findLastIndex(one => used[one] && !isHeld[one])
  return new Set(BAKED.slice(0, last + 1).filter(one => used[one]))
}

function bakesPan(pad: Pad, target: Target): boolean {
  if (pad.pan === 0 || target.audio.channels === 1 || isLossless(target)) return false
  return !holds(target, 'pan') || (!holds(target, 'stereo pan') && pad.layers.some(layer => layer.sound.channels > 1))
}

function tellRest(kit: Kit, pad: Pad, padIndex: number, target: Target, tell: Tell): void {
  if (isLossless(target)) return
  const label = padLabel(padIndex)
  if (pad.chokeGroup !== null && !holds(target, 'chokes')) tell('chokes', `${label} is in choke group ${pad.chokeGroup}, which ${target.name} does not know: it rings on.`)
  else if (pad.chokeGroup !== null && !keptGroups(kit, target).has(pad.chokeGroup)) tell('chokes', `${label} is in a choke group beyond those of ${target.name}: it rings on.`)
  if (pad.pan !== 0 && target.audio.channels === 1 && !holds(target, 'pan')) tell('pan', `${label} lies ${pad.pan < 0 ? 'left' : 'right'} of the middle; ${target.name} is mono.`)
  if (pad.play === 'gated' && !holds(target, 'gated')) tell('gated', `${label} sounds only while its key is held; on ${target.name} it plays to its end.`)
  if (pad.polyphony !== null && !holds(target, 'pad polyphony')) tell('pad polyphony', `${label} may sound ${pad.polyphony} times at once; ${target.name} has no such limit for a pad.`)
  if (pad.output !== kit.outputs[0]?.id && !holds(target, 'outputs')) tell('outputs', `${label} goes to an output of its own, which ${target.name} does not know.`)
}

/** Loudness goes with the power 1.2 of the velocity: gain with its square, power with its fourth, and 0.3 of that (see `lossOf`). */
const LOUDNESS_EXPONENT = 1.2

/** How much the velocities of a layer weigh, 0 to 1: a hit counts as loud as it is, since what is lost of it is that loud too. */
export function weightOf({ lowVelocity, highVelocity }: Pick<Layer, 'lowVelocity' | 'highVelocity'>): number {
  const upTo = (velocity: number) => (velocity / 127) ** (LOUDNESS_EXPONENT + 1)
  return upTo(highVelocity) - upTo(lowVelocity - 1)
}
