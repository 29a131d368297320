import { groupBy } from '../groupBy'
import { chosenAlternate, type Kit, type Layer, type Pad } from '../kit/document'
import { firstInForce, isInForce } from '../kit/articulations'
import { padLabel } from '../kit/padLabel'
import { settingsOf, trackedCents } from '../kit/voices'
import { counted, listed } from '../wording'
import { holds, isLossless, type Feature, type Target } from './target'

const MOST_NAMED = 6

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
export interface Warning {
  /** Null for the kit as a whole. */
  readonly padIndex: number | null
  readonly feature: Feature | 'kit polyphony' | 'choke time' | 'choke groups' | 'pads' | 'velocity ranges'
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
  readonly warnings: readonly Warning[]
}

/** Breaks the filled pads of a kit into the samples that a target would need for them. */
export function unitsOf(kit: Kit, target: Target): PadUnits[] {
  return kit.pads.flatMap((pad, padIndex) => {
    if (pad.layers.length === 0 || !isKept(kit, pad, target)) return []
    const warnings: Warning[] = []
    const warn = (feature: Warning['feature'], what: string) => void warnings.push({ padIndex, feature, what })
    const units = isLossless(target) || (pad.alternate !== null && holds(target, 'alternates'))
      ? pad.layers.map(({ lowVelocity, highVelocity, turn }, i) => ({ layers: [i], lowVelocity, highVelocity, turn }))
      : unitsOfPad(pad, target, warn)
    if (units.length === 0) return []
    tellRest(kit, pad, padIndex, target, warn)
    const baked = bakedOf(pad, target)
    if (movesBaked(pad, baked, target)) warn('note ranges', `The ${listed([...baked].filter(one => one !== 'tune'), MOST_NAMED)} of ${padLabel(padIndex)} ${baked.size - (baked.has('tune') ? 1 : 0) === 1 ? 'is' : 'are'} rendered into its samples, and will shift with the pitch on ${target.name}.`)
    return [{ padIndex, units: units.toSorted(inOrder), baked, bakesPan: bakesPan(pad, target), warnings }]
  })
}

/** What is told of the kit as a whole. */
export function warningsOfKit(kit: Kit, target: Target): Warning[] {
  const warnings: Warning[] = []
  if (target.polyphony !== null && kit.polyphony > target.polyphony) warnings.push({ padIndex: null, feature: 'kit polyphony', what: `The kit may sound ${kit.polyphony} voices at once; ${target.name} has ${target.polyphony}, and cuts off the oldest.` })
  const out = kit.pads.flatMap((pad, index) => pad.layers.length > 0 && !isKept(kit, pad, target) ? [padLabel(index)] : [])
  if (out.length > 0) warnings.push({ padIndex: null, feature: 'articulations', what: `${listed(out, MOST_NAMED)} ${out.length === 1 ? 'belongs' : 'belong'} to an articulation that is not the default; ${target.name} has no articulations, so ${out.length === 1 ? 'it is' : 'they are'} left out.` })
  if (kit.groupPolyphony.length > 0 && !isLossless(target) && !holds(target, 'group polyphony')) warnings.push({ padIndex: null, feature: 'group polyphony', what: `${counted(kit.groupPolyphony.length, 'choke group')} of the kit ${kit.groupPolyphony.length === 1 ? 'has' : 'have'} a voice limit, which ${target.name} does not support.` })
  const groups = new Set(namedGroups(kit, target))
  if (holds(target, 'chokes') && groups.size > target.chokeGroups) warnings.push({ padIndex: null, feature: 'choke groups', what: `The kit has ${counted(groups.size, 'choke group')}; ${target.name} has ${target.chokeGroups}. The pads of the last ones are in none.` })
  return warnings
}

/** Choke groups in the order of their numbers, as many as a target has. */
export function keptGroups(kit: Kit, target: Target): ReadonlyMap<number, number> {
  if (!holds(target, 'chokes')) return new Map()
  const groups = [...new Set(namedGroups(kit, target))].sort((a, b) => a - b)
  const isWithin = groups.every(group => group <= target.chokeGroups)
  return new Map(groups.slice(0, target.chokeGroups).map((group, i) => [group, isWithin ? group : i + 1]))
}

/** All groups that filled pads belong to or are cut by, as the target would have them. */
function namedGroups(kit: Kit, target: Target): number[] {
  return kit.pads.filter(pad => pad.layers.length > 0).flatMap((pad) => {
    const { chokeGroup, chokedBy } = chokeOn(pad, target)
    return [...chokeGroup === null ? [] : [chokeGroup], ...chokedBy ?? []]
  })
}

/**
 * A pad's choke group and what cuts it, as the target can have it: where groups cut only themselves, what is cut by another group
 * goes into that one.
 */
export function chokeOn({ chokeGroup, chokedBy, chokeSeconds }: Pad, target: Target): Pick<Pad, 'chokeGroup' | 'chokedBy' | 'chokeSeconds'> {
  if (isLossless(target) || holds(target, 'one-way chokes')) return { chokeGroup, chokedBy, chokeSeconds }
  return { chokeGroup: chokedBy?.[0] ?? chokeGroup, chokedBy: null, chokeSeconds: 0 }
}

/** Whether a pad sounds on the target at all: where there are no articulations, only the first one in force is there. */
function isKept(kit: Kit, pad: Pad, target: Target): boolean {
  return isLossless(target) || holds(target, 'articulations') || isInForce(firstInForce(kit), pad.articulation)
}

/** Layers that sound on the notes that a pad has on the target. */
function playedLayers(pad: Pad, target: Target): number[] {
  const all = pad.layers.map((_, i) => i)
  if (holds(target, 'note ranges')) return all
  return all.filter((i) => {
    const { notes } = pad.layers[i]!
    return notes === null || (pad.note >= notes.low && pad.note <= notes.high)
  })
}

/** The turn of each layer of a pad on the target: where nothing sounds by chance, such layers take turns. */
function turnsOn(pad: Pad, target: Target): (number | null)[] {
  if (holds(target, 'chance')) return pad.layers.map(layer => layer.turn)
  return pad.layers.map((layer) => {
    if (layer.turn !== null || layer.chance === null) return layer.turn
    const rivals = pad.layers.filter(other => other.chance !== null && other.lowVelocity === layer.lowVelocity && other.highVelocity === layer.highVelocity)
    return [...new Set(rivals.map(other => other.chance!.low))].sort((a, b) => a - b).indexOf(layer.chance.low) + 1
  })
}

/** Cents that are put into the tuning of a layer because the target has one note for its pad. */
export function placedCents(pad: Pad, layer: Layer, target: Pick<Target, 'holds'>): number {
  return holds(target, 'note ranges') ? 0 : trackedCents(pad, layer, pad.note)
}

/** Softest first, those of one range side by side. */
function inOrder(a: Unit, b: Unit): number {
  return a.lowVelocity - b.lowVelocity || a.highVelocity - b.highVelocity || (a.turn ?? 0) - (b.turn ?? 0)
}

type Warn = (feature: Warning['feature'], what: string) => void

function unitsOfPad(pad: Pad, target: Target, warn: Warn): Unit[] {
  const chosen = chosenAlternate(pad)
  if (chosen !== undefined) {
    warn('alternates', `Of ${counted(pad.layers.length, 'alternate')} only the chosen one is kept.`)
    return [{ layers: [chosen], lowVelocity: 1, highVelocity: 127, turn: null }]
  }
  const ranged = disjoint(pad, target, warn)
  const turns = turnsOn(pad, target)
  const byRange = groupBy(playedLayers(pad, target), i => `${ranged[i]!.low} ${ranged[i]!.high}`)
  return [...byRange.values()].flatMap((indexes): Unit[] => {
    const { low: lowVelocity, high: highVelocity } = ranged[indexes[0]!]!
    const always = indexes.filter(i => turns[i] === null)
    const takes = indexes.filter(i => turns[i] !== null)
    if (holds(target, 'stacks')) return indexes.map((i): Unit => ({ layers: [i], lowVelocity, highVelocity, turn: turns[i] ?? null }))
    // Layers that share a turn sound together; those without one sound with every take.
    const byTurn = [...groupBy(takes, i => turns[i]!).entries()].sort(([a], [b]) => a! - b!)
    if (byTurn.length === 0) return [{ layers: always, lowVelocity, highVelocity, turn: null }]
    return byTurn.map(([turn = null, own]) => ({ layers: [...always, ...own].sort((a, b) => a - b), lowVelocity, highVelocity, turn }))
  })
}

/** Velocity ranges that do not overlap, for targets that sound one range at a time; the boundary lies in the middle of what was shared. */
function disjoint(pad: Pad, target: Target, warn: Warn): { low: number, high: number }[] {
  const own = pad.layers.map(({ lowVelocity: low, highVelocity: high }) => ({ low, high }))
  const fades = pad.layers.some(layer => layer.fadeInVelocities > 0 || layer.fadeOutVelocities > 0)
  if (holds(target, 'crossfade')) return own
  if (fades) warn('crossfade', 'Layers that fade into one another by velocity change at one velocity.')
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
  if (moved && !fades) warn('velocity ranges', 'Velocity ranges that overlap are cut where they meet.')
  return own.map((range) => {
    const at = before.findIndex(known => known.low === range.low && known.high === range.high)
    return ranges[at]!
  })
}

/** Settings that have to go into the samples. Those that are applied before one of them go with it. */
function bakedOf(pad: Pad, target: Target): ReadonlySet<Baked> {
  if (isLossless(target)) return new Set()
  const own = pad.layers.map(layer => settingsOf(pad, layer))
  const byLayer = holds(target, 'layer settings')
  const mayStay = (setting: 'filter' | 'envelope') => byLayer || pad.layers.every(layer => layer[setting] === null)
  const used: Readonly<Record<Baked, boolean>> = {
    tune: pad.tuneCents !== 0 || pad.layers.some(layer => layer.tuneCents !== 0 || placedCents(pad, layer, target) !== 0),
    filter: own.some(({ filter }) => filter !== null),
    drive: pad.driveDb > 0,
    envelope: own.some(({ envelope: { attackSeconds, decaySeconds } }) => attackSeconds > 0 || decaySeconds !== null),
  }
  const isHeld: Readonly<Record<Baked, boolean>> = {
    tune: holds(target, 'tune'),
    filter: mayStay('filter') && (holds(target, 'filter') || (holds(target, 'low-pass') && own.every(({ filter }) => filter === null || (filter.type === 'low-pass' && filter.resonanceDb === 0)))),
    drive: holds(target, 'drive'),
    envelope: mayStay('envelope') && holds(target, 'envelope'),
  }
  const last = BAKED.findLastIndex(one => used[one] && !isHeld[one])
  return new Set(BAKED.slice(0, last + 1).filter(one => used[one]))
}

/** Whether a sample is played at pitches at which what is put into it sounds otherwise than in the kit. */
function movesBaked(pad: Pad, baked: ReadonlySet<Baked>, target: Target): boolean {
  if (!holds(target, 'note ranges') || [...baked].every(one => one === 'tune')) return false
  return pad.layers.some(layer => trackedCents(pad, layer, pad.range?.low ?? pad.note) !== 0 || trackedCents(pad, layer, pad.range?.high ?? pad.note) !== 0)
}

function bakesPan(pad: Pad, target: Target): boolean {
  if (pad.layers.every(layer => settingsOf(pad, layer).pan === 0) || target.audio.channels === 1 || isLossless(target)) return false
  return !holds(target, 'pan') || (!holds(target, 'layer settings') && pad.layers.some(layer => layer.pan !== null)) || (!holds(target, 'stereo pan') && pad.layers.some(layer => layer.sound.channels > 1))
}

function tellRest(kit: Kit, pad: Pad, padIndex: number, target: Target, warn: Warn): void {
  if (isLossless(target)) return
  const label = padLabel(padIndex)
  const choke = chokeOn(pad, target)
  const isOneWay = pad.chokedBy !== null && (pad.chokedBy.length !== 1 || pad.chokedBy[0] !== pad.chokeGroup)
  if (holds(target, 'chokes') && isOneWay && !holds(target, 'one-way chokes')) warn('one-way chokes', `${label} is cut by ${pad.chokedBy!.length === 0 ? 'nothing' : `choke ${pad.chokedBy!.length === 1 ? 'group' : 'groups'} ${listed(pad.chokedBy!.map(String), MOST_NAMED)}`}; on ${target.name} it ${choke.chokeGroup === null ? 'rings on' : `joins group ${choke.chokeGroup}, whose pads all cut each other`}.`)
  else if (holds(target, 'one-way chokes') && (pad.chokedBy?.length ?? 0) > 1) warn('one-way chokes', `${label} is cut by ${counted(pad.chokedBy!.length, 'group')}; on ${target.name} by group ${pad.chokedBy![0]} only.`)
  if (pad.chokeSeconds > 0 && holds(target, 'chokes') && !holds(target, 'one-way chokes')) warn('choke time', `${label} fades out over ${pad.chokeSeconds} s when it is cut; on ${target.name} it stops at once.`)
  if (pad.range !== null && !holds(target, 'note ranges')) warn('note ranges', `${label} plays over ${counted(pad.range.high - pad.range.low + 1, 'note')}; on ${target.name} it has one, at the pitch of that note.`)
  if (pad.layers.some(layer => layer.chance !== null) && !holds(target, 'chance')) warn('chance', `Layers of ${label} are picked at random; on ${target.name} they take turns.`)
  if ((pad.velocityTrack !== 1 || pad.velocityCurve !== null) && !holds(target, 'velocity curve')) warn('velocity curve', `${label} has its own velocity response; ${target.name} uses the standard one.`)
  if (pad.chokeGroup !== null && !holds(target, 'chokes')) warn('chokes', `${label} is in choke group ${pad.chokeGroup}, which ${target.name} does not know: it rings on.`)
  else if (pad.chokeGroup !== null && !keptGroups(kit, target).has(choke.chokeGroup ?? pad.chokeGroup)) warn('chokes', `${label} is in a choke group beyond those of ${target.name}: it rings on.`)
  if (pad.pan !== 0 && target.audio.channels === 1 && !holds(target, 'pan')) warn('pan', `${label} lies ${pad.pan < 0 ? 'left' : 'right'} of the middle; ${target.name} is mono.`)
  if (pad.play === 'gated' && !holds(target, 'gated')) warn('gated', `${label} sounds only while its key is held; on ${target.name} it plays to its end.`)
  if (pad.polyphony !== null && !holds(target, 'pad polyphony')) warn('pad polyphony', `${label} may sound ${pad.polyphony} times at once; ${target.name} has no such limit for a pad.`)
  if (pad.output !== kit.outputs[0]?.id && !holds(target, 'outputs')) warn('outputs', `${label} goes to an output of its own, which ${target.name} does not know.`)
}

/** Loudness goes with the power 1.2 of the velocity: gain with its square, power with its fourth, and 0.3 of that (see `lossOf`). */
const LOUDNESS_EXPONENT = 1.2

/** How much the velocities of a layer weigh, 0 to 1: a hit counts as loud as it is, since what is lost of it is that loud too. */
export function weightOf({ lowVelocity, highVelocity }: Pick<Layer, 'lowVelocity' | 'highVelocity'>): number {
  const upTo = (velocity: number) => (velocity / 127) ** (LOUDNESS_EXPONENT + 1)
  return upTo(highVelocity) - upTo(lowVelocity - 1)
}
