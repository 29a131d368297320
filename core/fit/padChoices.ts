import { distanceDb, lossOf, ratioOfDistance } from './cost'
import { undominated, type Choice } from './frontier'
import type { SampleMeasure } from './measure'
import { weightOf, type Unit } from './units'
import type { Hold, Variant } from './variants'

/** What becomes of one unit: how it is written; undefined: it is dropped, and `by` stands in for it. */
export interface UnitChoice {
  readonly variant: Variant | undefined
  readonly by: number | undefined
  /** How far the one that stands in differs, in dB. */
  readonly distanceDb: number
}

/** What becomes of the units of a pad; null: the pad is left out. */
export type PadChoice = readonly UnitChoice[] | null

/** How the ways of a pad are weighed and counted. */
export interface Choosing {
  readonly hold: Hold
  /** How much the pad matters. */
  readonly weight: number
  /** What a sample takes of each scarce thing. */
  readonly usesOf: (variant: Variant) => readonly number[]
  /** How many scarce things there are. */
  readonly dimensions: number
  /** Ways that go on: of more, those that lie evenly along what they cost. */
  readonly mostWays: number
}

/** A unit with the ways to write it. */
export interface UnitToChoose {
  readonly unit: Unit
  readonly measure: SampleMeasure
  readonly variants: readonly Variant[]
}

/** A take that another one stands in for is missed less than a layer: each still sounds, if more often. */
const TAKE_WEIGHT = 0.3
/** Subsets of takes are tried one by one up to so many; of more, the first ones stay. */
const MOST_TAKES_TRIED = 5

/** What it costs that some layers of a pad are stereo and others are not: they jump from the middle to the sides as one plays harder. */
const UNLIKE_COST = 0.25

/** The ways of a pad, those in which its layers are alike in their channels before those in which they are not. */
export function alikeWays(units: readonly UnitToChoose[], most: { readonly layers: number, readonly turns: number }, choosing: Choosing): Choice<PadChoice>[] {
  const widths = (unit: UnitToChoose) => new Set(unit.variants.map(({ channels }) => channels)).size
  if (units.length < 2 || units.every(unit => widths(unit) < 2)) return waysOfPad(units, most, choosing)
  const ofWidth = (channels: 1 | 2) => waysOfPad(units.map(unit => widths(unit) < 2 ? unit : { ...unit, variants: unit.variants.filter(variant => variant.channels === channels) }), most, choosing)
  const mixed = waysOfPad(units, most, { ...choosing, mostWays: Math.ceil(choosing.mostWays / 3) }).map(way => ({ ...way, cost: way.cost + UNLIKE_COST * choosing.weight }))
  return thinned(undominated([...ofWidth(2), ...ofWidth(1), ...mixed], choosing.dimensions), choosing.mostWays)
}

/**
 * All ways to write a pad that are worth choosing among: which of its velocity ranges stay, which takes of each, and how each is
 * written. The velocities of a range that is dropped go to the next one that stays, below or above, whichever differs less.
 *
 * @param most velocity ranges and takes of each
 */
export function waysOfPad(units: readonly UnitToChoose[], most: { readonly layers: number, readonly turns: number }, choosing: Choosing): Choice<PadChoice>[] {
  const { hold, weight, dimensions, mostWays } = choosing
  const ranges = rangesOf(units)
  const distance = distances(units)
  const forRange = ranges.map(range => waysOfRange(units, range, most.turns, choosing, distance))
  const count = ranges.length
  const keep = Math.min(most.layers, count)
  if (hold.layers && keep < count) return []
  const none = Array.from({ length: dimensions }, () => 0)
  const nothing: Ways = { uses: none, cost: 0, what: { before: undefined, own: [] } }
  /** Ways of the ranges up to one that stays, by how many stay so far. */
  const upTo: Ways[][][] = ranges.map(() => Array.from({ length: keep + 1 }, () => []))
  const without = (from: number, to: number, below: number | undefined, above: number | undefined) => withoutLayers(units, ranges.slice(from, to), below === undefined ? undefined : ranges[below], above === undefined ? undefined : ranges[above], weight, distance)
  const whole: Ways[] = []
  for (let at = 0; at < count; at++) {
    for (let before = -1; before < at; before++) {
      const between = without(before + 1, at, before < 0 ? undefined : before, at)
      if (hold.layers && at - before > 1) continue
      for (let kept = 1; kept <= keep; kept++) {
        const starts = before < 0 ? kept === 1 ? [nothing] : [] : upTo[before]![kept - 1]!
        for (const start of starts) {
          for (const way of forRange[at]!) upTo[at]![kept]!.push(joined(start, between, way))
        }
      }
    }
    for (let kept = 1; kept <= keep; kept++) upTo[at]![kept] = thinned(undominated(upTo[at]![kept]!, dimensions), mostWays)
    if (hold.layers && at < count - 1) continue
    const after = without(at + 1, count, at, undefined)
    whole.push(...upTo[at]!.flat().map(way => joined(way, after, nothing)))
  }
  return thinned(undominated(whole, dimensions), mostWays).map(way => ({ ...way, what: listed(way.what) }))
}

/** Choices one after the other, put together by links and not copied. */
interface Chain {
  readonly before: Chain | undefined
  readonly own: readonly UnitChoice[]
  readonly after?: Chain
}

type Ways = Choice<Chain>

function listed(chain: Chain | undefined): UnitChoice[] {
  return chain ? [...listed(chain.before), ...chain.own, ...listed(chain.after)] : []
}

/** Places of units with the same velocities, softest first. */
function rangesOf(units: readonly UnitToChoose[]): number[][] {
  const found = new Map<string, number[]>()
  units.forEach(({ unit }, i) => {
    const key = `${unit.lowVelocity} ${unit.highVelocity}`
    found.set(key, [...found.get(key) ?? [], i])
  })
  return [...found.values()]
}

function distances(units: readonly UnitToChoose[]): (a: number, b: number) => number {
  const known = new Map<number, number>()
  return (a, b) => {
    const key = Math.min(a, b) * units.length + Math.max(a, b)
    let found = known.get(key)
    if (found === undefined) known.set(key, found = distanceDb(units[a]!.measure, units[b]!.measure))
    return found
  }
}

/** The ways to write the takes of one range: which of them stay, and how each is written. */
function waysOfRange(units: readonly UnitToChoose[], range: readonly number[], turns: number, { hold, weight, usesOf, dimensions, mostWays }: Choosing, distance: (a: number, b: number) => number): Ways[] {
  const none = Array.from({ length: dimensions }, () => 0)
  const isTurned = range.some(i => units[i]!.unit.turn !== null)
  const ways: Ways[] = []
  for (const kept of isTurned ? subsets(range, turns, hold.layers === true) : [range]) {
    let states: Ways[] = [{ uses: none, cost: 0, what: { before: undefined, own: [] } }]
    for (const i of range) {
      const { unit, variants } = units[i]!
      const share = weight * weightOf(unit) / (isTurned ? range.length : 1)
      const choices = kept.includes(i)
        ? variants.map(variant => ({ uses: usesOf(variant), cost: share * variant.loss, what: { variant, by: undefined, distanceDb: 0 } }))
        : [standIn(i, kept, share * TAKE_WEIGHT, distance, none)]
      states = undominated(states.flatMap(state => choices.map(choice => ({ uses: state.uses.map((use, d) => use + choice.uses[d]!), cost: state.cost + choice.cost, what: { before: state.what, own: [choice.what] } }))), dimensions)
      states = thinned(states, mostWays)
    }
    ways.push(...states)
  }
  return thinned(undominated(ways, dimensions), mostWays)
}

function standIn(i: number, kept: readonly number[], share: number, distance: (a: number, b: number) => number, none: readonly number[]): Choice<UnitChoice> {
  const by = kept.reduce((nearest, candidate) => distance(i, candidate) < distance(i, nearest) ? candidate : nearest)
  const db = distance(i, by)
  return { uses: none, cost: share * lossOf(ratioOfDistance(db)), what: { variant: undefined, by, distanceDb: db } }
}

/** The ranges between two that stay: those below some boundary go to the one below, the others to the one above, so that it costs the least. */
function withoutLayers(units: readonly UnitToChoose[], between: readonly (readonly number[])[], below: readonly number[] | undefined, above: readonly number[] | undefined, weight: number, distance: (a: number, b: number) => number): { cost: number, what: UnitChoice[] } {
  const costOf = (range: readonly number[], by: number) => weight * weightOf(units[range[0]!]!.unit) * lossOf(ratioOfDistance(distance(range[0]!, by)))
  let best: { cost: number, what: UnitChoice[] } | undefined
  for (let boundary = above === undefined ? between.length : 0; boundary <= (below === undefined ? 0 : between.length); boundary++) {
    const byOf = (i: number) => (i < boundary ? below : above)![0]!
    const cost = between.reduce((sum, range, i) => sum + costOf(range, byOf(i)), 0)
    if (best && best.cost <= cost) continue
    best = { cost, what: between.flatMap((range, i) => range.map(() => ({ variant: undefined, by: byOf(i), distanceDb: distance(range[0]!, byOf(i)) }))) }
  }
  return best ?? { cost: 0, what: [] }
}

function joined(start: Ways, between: { readonly cost: number, readonly what: readonly UnitChoice[] }, way: Ways): Ways {
  return { uses: start.uses.map((use, i) => use + way.uses[i]!), cost: start.cost + between.cost + way.cost, what: { before: start.what, own: between.what, after: way.what } }
}

/** Which takes stay: any, or the first ones where there are many. All where they are held. */
function subsets(range: readonly number[], most: number, isHeld: boolean): number[][] {
  if (isHeld) return range.length > most ? [] : [[...range]]
  if (range.length > MOST_TAKES_TRIED) return Array.from({ length: Math.min(most, range.length) }, (_, i) => range.slice(0, i + 1))
  return Array.from({ length: 2 ** range.length - 1 }, (_, bits) => range.filter((_, i) => (bits + 1) >> i & 1)).filter(kept => kept.length <= most)
}

/** Of many ways those that lie evenly, the cheapest and the smallest among them. */
export function thinned<S>(sorted: readonly S[], most: number): S[] {
  if (sorted.length <= most) return [...sorted]
  return Array.from({ length: most }, (_, i) => sorted[Math.round(i * (sorted.length - 1) / (most - 1))]!)
}
