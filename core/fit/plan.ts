import { padLabel } from '../kit/padLabel'
import { toDb } from '../audio/level'
import { MOST_LAYERS, type Kit } from '../kit/document'
import { cheapest, type Choice } from './frontier'
import type { SampleMeasure } from './measure'
import { usualArranging, type Arranging } from './arrange'
import { leavingCosts } from './leaving'
import { sampleKey } from './sampleKey'
import { shortfallOf, shortfallOfEach, type Held, type PadNeed, type Shortfall } from './shortfall'
import { sizeOf } from './size'
import { alikeWays, type PadChoice, type UnitChoice } from './padChoices'
import { isLossless, type Target } from './target'
import { warningsOfKit, unitsOf, type PadUnits, type Warning, type Unit } from './units'
import { notesUsed, overOf, roomOf, usageOfKit, type Usage } from './usage'
import { sized, variantsOf, type Hold, type Scarce, type Variant } from './variants'

/** How much a pad matters to the user. */
export const IMPORTANCES = ['low', 'normal', 'high'] as const
export type Importance = typeof IMPORTANCES[number]

/** What the user said of pads, by their indexes. */
export interface Wishes {
  readonly holds: Readonly<Record<number, Hold>>
  readonly importance: Readonly<Record<number, Importance>>
}

/** What becomes of one sample of a kit. */
export interface PlanRow {
  readonly padIndex: number
  /** Its place among the samples of its pad. */
  readonly at: number
  readonly unit: Unit
  readonly measure: SampleMeasure
  /** `dropped`: another sample of its pad stands in for it. `left out`: with its whole pad. */
  readonly state: 'kept' | 'dropped' | 'left out'
  readonly variant: Variant | null
  /** The sample that stands in for a dropped one, by its place, and how far it differs. */
  readonly by: { readonly at: number, readonly distanceDb: number } | null
  /** A sample of another pad or layer that this one is the same as, so that it takes no room. */
  readonly sharedWith: string | null
}

/** What must change for a kit to meet a target. */
export interface FitPlan {
  readonly targetId: string
  readonly rows: readonly PlanRow[]
  readonly pads: readonly PadUnits[]
  readonly warnings: readonly Warning[]
  /** As if nothing gave. */
  readonly before: Usage
  readonly after: Usage
  /** By how much all samples are lowered so that none clips; 0 or less. */
  readonly loweredDb: number
  /** Sum of what is lost, as loudness weighted by importance. */
  readonly cost: number
  /** Limits that cannot be met; the plan is then the best one for the others, and is not to be written. */
  readonly shortfalls: readonly Shortfall[]
}

type MeasureOf = (padIndex: number, at: number) => SampleMeasure

/** What is written beside the samples is found out from a plan; few are needed until all of it fits. */
const MOST_TRIES = 8
const WEIGHTS: Readonly<Record<Importance, number>> = { low: 0.25, normal: 1, high: 4 }
/** Of few pads all ways that are worth anything are weighed, of many so many of each. */
const FEW_PADS = 8
const MOST_WAYS_OF_FEW = 1_000
const MOST_WAYS = 28
const DIMENSIONS = ['seconds', 'bytes', 'samples', 'pads'] as const
type Dimension = typeof DIMENSIONS[number]

/**
 * Plans how a kit meets a target with the least audible loss under all its limits together. What is held stays as it is.
 *
 * @param measureOf the measure of a pad's sample, with what is baked into it, by the index of the pad and the place of the sample
 * @param way how pads find their places, which names and lists depend on
 */
export function planFit(kit: Kit, target: Target, measureOf: MeasureOf, wishes: Wishes, way: Arranging = usualArranging(target)): FitPlan {
  const ways: WaysKnown = new Map()
  if (isLossless(target)) return planWithin(kit, target, measureOf, wishes, ways)
  const { bytes: limit } = target.limits
  let allowed = limit
  for (let tries = 0; ; tries++) {
    const within = { ...target, limits: { ...target.limits, bytes: allowed } }
    const plan = bestDepth(kit, within, measureOf, wishes, ways)
    const bytes = sizeOf(kit, target, plan, way)
    // What is asked for is the target's own limit, whatever was kept back for what is written beside the samples.
    const kept = limit === null || allowed === null ? 0 : limit - allowed
    const exact = { ...plan, after: { ...plan.after, bytes }, shortfalls: plan.shortfalls.map(one => one.meter === 'bytes' ? { ...one, needed: one.needed + kept, room: one.room + kept } : one) }
    if (limit === null || allowed === null || bytes <= limit || plan.shortfalls.some(({ meter }) => meter === 'bytes')) return exact
    allowed = Math.floor(allowed - (bytes - limit))
    if (allowed <= 0 || tries === MOST_TRIES) return { ...exact, shortfalls: [...plan.shortfalls, { meter: 'bytes', needed: bytes, room: limit, pads: [], releases: [] }] }
  }
}

/** A SoundFont bank has one depth: each is planned by itself, until one costs nothing. */
function bestDepth(kit: Kit, target: Target, measureOf: MeasureOf, wishes: Wishes, ways: WaysKnown): FitPlan {
  const [depth, ...others] = target.audio.depths
  if (target.writes !== 'sf2' || others.length === 0) return planWithin(kit, target, measureOf, wishes, ways)
  const planAt = (depths: Target['audio']['depths']) => planWithin(kit, { ...target, audio: { ...target.audio, depths } }, measureOf, wishes, ways)
  const first = planAt([depth!])
  return first.shortfalls.length === 0 && first.cost === 0 ? first : others.map(other => planAt([other])).reduce(better, first)
}

/** Of two plans the one that can be carried out, and of two such the one that costs less. */
function better(one: FitPlan, other: FitPlan): FitPlan {
  const [a, b] = [one.shortfalls.length > 0 ? 1 : 0, other.shortfalls.length > 0 ? 1 : 0]
  return a !== b ? a < b ? one : other : other.cost < one.cost ? other : one
}

function planWithin(kit: Kit, target: Target, measureOf: MeasureOf, wishes: Wishes, ways: WaysKnown): FitPlan {
  const pads = unitsOf(kit, target)
  const known = pads.map(({ padIndex, units }) => units.map((_, at) => measureOf(padIndex, at)))
  const before = usageOfKit(kit, target)
  const plan = (choices: readonly PadChoice[], cost: number, owners: Owners, shortfalls: readonly Shortfall[]) => planOf({ kit, target, pads, known, choices, cost, owners, before, shortfalls })
  if (isLossless(target)) return plan(pads.map(({ units }, i) => units.map((_, at) => asItIs(known[i]![at]!))), 0, ownersOf(pads, ({ padIndex }, { layers }) => JSON.stringify(layers.map(index => kit.pads[padIndex]!.layers[index]!.sound.id).toSorted())), [])
  const owners = target.audio.shares ? ownersOf(pads, (pad, unit) => sampleKey(kit, unit, pad, target)) : noOwners
  const active = new Set<Dimension>()
  for (;;) {
    const found = solve({ kit, target, pads, known, wishes, owners, ways, dimensions: DIMENSIONS.filter(dimension => active.has(dimension)) })
    if (found.shortfalls.length > 0) return withoutLimits(kit, target, found.shortfalls, freed => planWithin(kit, freed, measureOf, wishes, ways))
    const made = plan(found.choices, found.cost, owners, [])
    const over = overOf(made.after, target).map(({ meter }) => meter).filter((meter): meter is Dimension => (DIMENSIONS as readonly string[]).includes(meter) && !active.has(meter as Dimension))
    if (over.length === 0) {
      const isOver = overOf(made.after, target).length > 0
      // Samples that were thought to be shared may have lost the one they share with.
      if (isOver && owners !== noOwners) return planUnshared(kit, target, measureOf, wishes, ways)
      return made
    }
    for (const dimension of over) active.add(dimension)
  }
}

/** The best plan where some limits cannot be met: as if there were none of those, so that all else is seen. */
function withoutLimits(kit: Kit, target: Target, shortfalls: readonly Shortfall[], planFreed: (freed: Target) => FitPlan): FitPlan {
  const unmet = new Set(shortfalls.map(({ meter }) => meter))
  const { limits, pads } = target
  const freed: Target = {
    ...target,
    pads: unmet.has('pads') ? { ...pads, banks: Math.ceil(kit.pads.length / pads.inBank) } : pads,
    ...unmet.has('layers') ? { layers: MOST_LAYERS, turns: MOST_LAYERS } : {},
    limits: {
      ...limits,
      ...Object.fromEntries((['seconds', 'bytes', 'samples', 'longestSeconds'] as const).filter(meter => unmet.has(meter)).map(meter => [meter, null])),
    },
  }
  const plan = planFreed(freed)
  return { ...plan, shortfalls: [...shortfalls, ...plan.shortfalls] }
}

function planUnshared(kit: Kit, target: Target, measureOf: MeasureOf, wishes: Wishes, ways: WaysKnown): FitPlan {
  return { ...planWithin(kit, { ...target, audio: { ...target.audio, shares: false } }, measureOf, wishes, ways), targetId: target.id }
}

/** For samples that are used again: the pad and place of the first of them. */
type Owners = ReadonlyMap<string, { readonly padIndex: number, readonly at: number, readonly label: string }>
const noOwners: Owners = new Map()

function placeKey(padIndex: number, at: number): string {
  return `${padIndex} ${at}`
}

function ownersOf(pads: readonly PadUnits[], keyOf: (pad: PadUnits, unit: Unit) => string): Owners {
  const first = new Map<string, { padIndex: number, at: number, label: string }>()
  const owners = new Map<string, { padIndex: number, at: number, label: string }>()
  for (const pad of pads) {
    const { padIndex, units } = pad
    units.forEach((unit, at) => {
      const key = keyOf(pad, unit)
      const known = first.get(key)
      if (known) owners.set(placeKey(padIndex, at), known)
      else first.set(key, { padIndex, at, label: padLabel(padIndex) })
    })
  }
  return owners
}

/** A kit package has copies of the files. */
function asItIs(measure: SampleMeasure): UnitChoice {
  const { frames, sampleRate, channels, sourceBits, fileBytes } = measure
  const depth = sourceBits === 16 || sourceBits === 24 ? sourceBits : 'float'
  const nothing = -120
  return { variant: { sampleRate, depth, channels: channels === 1 ? 1 : 2, fold: null, fromFrame: 0, toFrame: frames, seconds: frames / sampleRate, bytes: fileBytes, loss: 0, lostDb: { bandwidth: nothing, tail: nothing, stereo: nothing, noise: nothing } }, by: undefined, distanceDb: 0 }
}

/** The ways of pads that were worked out: they are the same however much room there is. */
type WaysKnown = Map<string, Choice<PadChoice>[]>

interface ToSolve {
  readonly kit: Kit
  readonly target: Target
  readonly pads: readonly PadUnits[]
  readonly known: readonly (readonly SampleMeasure[])[]
  readonly wishes: Wishes
  readonly owners: Owners
  readonly ways: WaysKnown
  readonly dimensions: readonly Dimension[]
}

/** Pads of which something is held stay as long as others can give way. */
function solve(toSolve: ToSolve): Solved {
  const first = solveWith(toSolve, false)
  const heldSome = Object.values(toSolve.wishes.holds).some(hold => !hold.pad && isHeld(hold))
  return first.shortfalls.length > 0 && heldSome ? solveWith(toSolve, true) : first
}

function isHeld({ stereo, length, bandwidth, layers }: Hold): boolean {
  return [stereo, length, bandwidth, layers].includes(true)
}

interface Solved {
  readonly choices: readonly PadChoice[]
  readonly cost: number
  readonly shortfalls: readonly Shortfall[]
}

function solveWith({ kit, target, pads, known, wishes, owners, ways: waysKnown, dimensions }: ToSolve, mayLeaveHeld: boolean): Solved {
  const room = roomOf(target)
  const limits = dimensions.map(dimension => room[dimension]!)
  const scarce: Scarce = { seconds: dimensions.includes('seconds'), bytes: dimensions.includes('bytes') }
  const zero = limits.map(() => 0)
  const leaving = dimensions.length > 0 ? leavingCosts(kit, pads, known) : []
  const holdOf = (i: number) => wishes.holds[pads[i]!.padIndex] ?? {}
  const waysOf = (i: number, hold: Hold): Choice<PadChoice>[] => {
    const key = JSON.stringify([i, hold, mayLeaveHeld, dimensions, target.audio, target.layers, target.turns, target.limits.longestSeconds])
    const before = waysKnown.get(key)
    if (before) return before
    const made = workOutWays(i, hold)
    waysKnown.set(key, made)
    return made
  }
  const workOutWays = (i: number, hold: Hold): Choice<PadChoice>[] => {
    const { padIndex, units } = pads[i]!
    const weight = WEIGHTS[wishes.importance[padIndex] ?? 'normal']
    const toChoose = units.map((unit, at) => {
      const measure = known[i]![at]!
      const own = variantsOf(measure, target, hold, scarce, 0)
      const isShared = owners.has(placeKey(padIndex, at))
      return { unit, measure, variants: isShared ? own.slice(0, 1).map(variant => ({ ...variant, seconds: 0, bytes: 0 })) : own }
    })
    const usesOf = (variant: Variant) => dimensions.map(dimension => dimension === 'seconds' ? variant.seconds : dimension === 'bytes' ? variant.bytes : dimension === 'samples' && variant.bytes > 0 ? 1 : 0)
    const ways: Choice<PadChoice>[] = alikeWays(toChoose, target, { hold, weight, usesOf, dimensions: limits.length, mostWays: pads.length > FEW_PADS ? MOST_WAYS : MOST_WAYS_OF_FEW })
      .map(way => ({ ...way, uses: way.uses.map((use, d) => dimensions[d] === 'pads' ? use + 1 : use) }))
    const out: Choice<PadChoice>[] = dimensions.length > 0 && !hold.pad && (mayLeaveHeld || !isHeld(hold)) ? [{ uses: zero, cost: weight * leaving[i]!, what: null }] : []
    return [...ways, ...out]
  }
  const parts = pads.map((_, i) => waysOf(i, holdOf(i)))
  const tooLong = longHeld(pads, known, wishes)
  if (room.longestSeconds !== null && tooLong.some(({ needed }) => needed > room.longestSeconds!)) return unmet([shortfallOfEach('longestSeconds', room.longestSeconds, tooLong)])
  const tooMany = pads.flatMap(({ padIndex, units }, i): PadNeed[] => parts[i]!.length > 0 ? [] : [{ padIndex, needed: units.length, without: [{ held: 'layers', needed: waysOf(i, { ...holdOf(i), layers: false }).length > 0 ? 0 : units.length }] }])
  if (tooMany.length > 0) return unmet([shortfallOfEach('layers', room.layers!, tooMany)])
  const found = cheapest(parts, limits)
  const isEmpty = found?.chosen.every(choice => choice === null) === true && pads.length > 0
  if (found && !isEmpty) return { choices: found.chosen, cost: found.cost, shortfalls: [] }
  const leastOf = (ways: readonly Choice<PadChoice>[], d: number) => Math.min(...ways.map(choice => choice.uses[d]!))
  const needsOf = (d: number) => {
    // Where all pads would have to go, what counts is how little the smallest of them could do with.
    if (isEmpty) return pads.map(({ padIndex }, i): PadNeed => ({ padIndex, needed: leastOf(parts[i]!.filter(({ what }) => what !== null), d), without: [] })).toSorted((a, b) => a.needed - b.needed).slice(0, 1)
    return pads.map(({ padIndex }, i): PadNeed => ({
      padIndex, needed: leastOf(parts[i]!, d),
      without: heldOf(holdOf(i)).map(held => ({ held, needed: leastOf(waysOf(i, { ...holdOf(i), [held]: false }), d) })),
    }))
  }
  const alone = dimensions.map((meter, d) => shortfallOf(meter, limits[d]!, needsOf(d))).filter(({ needed, room: most }) => needed > most)
  if (alone.length > 0) return unmet(alone)
  // Each limit can be met by itself, but not all together: what is over when the first is met tells how far.
  const staying = isEmpty ? [leastOver(parts, limits)] : parts.map((ways, i) => ({ i, uses: ways.reduce((least, choice) => choice.uses[0]! < least.uses[0]! ? choice : least).uses }))
  const others = dimensions.map((meter, d) => shortfallOf(meter, limits[d]!, staying.map(({ i, uses }) => ({ padIndex: pads[i]!.padIndex, needed: uses[d]!, without: [] }))))
  return unmet(others.filter(({ needed, room: most }) => needed > most))
}

/** Where no pad can stay: the one way of any that passes the limits by the smallest part. */
function leastOver(parts: readonly (readonly Choice<PadChoice>[])[], limits: readonly number[]): { readonly i: number, readonly uses: readonly number[] } {
  const over = (uses: readonly number[]) => Math.max(...uses.map((use, d) => use / limits[d]!))
  return parts.flatMap((ways, i) => ways.flatMap(({ what, uses }) => what === null ? [] : [{ i, uses }])).reduce((least, way) => over(way.uses) < over(least.uses) ? way : least)
}

function unmet(shortfalls: readonly Shortfall[]): Solved {
  return { choices: [], cost: Infinity, shortfalls }
}

function heldOf(hold: Hold): Held[] {
  return (Object.keys(hold) as Held[]).filter(held => hold[held])
}

/** The longest samples of the pads whose ends are held, in seconds. */
function longHeld(pads: readonly PadUnits[], known: readonly (readonly SampleMeasure[])[], { holds }: Wishes): PadNeed[] {
  return pads.flatMap(({ padIndex }, i) => holds[padIndex]?.length ? [{ padIndex, needed: Math.max(...known[i]!.map(({ frames, sampleRate }) => frames / sampleRate)), without: [{ held: 'length' as const, needed: 0 }] }] : [])
}

interface ToPlan {
  readonly kit: Kit
  readonly target: Target
  readonly pads: readonly PadUnits[]
  readonly known: readonly (readonly SampleMeasure[])[]
  readonly choices: readonly PadChoice[]
  readonly cost: number
  readonly owners: Owners
  readonly before: Usage
  readonly shortfalls: readonly Shortfall[]
}

function planOf({ kit, target, pads, known, choices, cost, owners, before, shortfalls }: ToPlan): FitPlan {
  const chosen = new Map<string, UnitChoice>()
  pads.forEach(({ padIndex }, i) => choices[i]?.forEach((choice, at) => chosen.set(placeKey(padIndex, at), choice)))
  const rows = pads.flatMap(({ padIndex, units }, i): PlanRow[] => {
    return units.map((unit, at) => {
      const choice = chosen.get(placeKey(padIndex, at))
      const owner = owners.get(placeKey(padIndex, at))
      const theirs = owner && chosen.get(placeKey(owner.padIndex, owner.at))?.variant
      // A sample that is shared is written as the first of those that share it.
      const own = choice?.variant ? theirs ?? inFull(choice.variant, known[i]![at]!) : null
      return {
        padIndex, at, unit, measure: known[i]![at]!,
        state: !choice ? 'left out' : choice.variant ? 'kept' : 'dropped',
        variant: own,
        by: choice?.by === undefined ? null : { at: choice.by, distanceDb: choice.distanceDb },
        sharedWith: own && theirs ? owner.label : null,
      }
    })
  })
  const peak = Math.max(0, ...rows.filter(row => row.state === 'kept' && row.variant?.depth !== 'float').map(row => row.measure.peak))
  return {
    targetId: target.id, rows, pads,
    warnings: [...warningsOfKit(kit, target), ...pads.flatMap(pad => pad.warnings)],
    before, after: usageAfter(kit, rows, target),
    loweredDb: peak > 1 && !isLossless(target) ? -toDb(peak) : 0,
    cost, shortfalls,
  }
}

/** What a sample takes that was thought to be shared, and is not. */
function inFull(variant: Variant, measure: SampleMeasure): Variant {
  return variant.bytes > 0 ? variant : sized(variant, measure)
}

function usageAfter(kit: Kit, rows: readonly PlanRow[], target: Target): Usage {
  const kept = rows.filter(row => row.state === 'kept')
  const written = kept.filter(row => row.sharedWith === null)
  const perPad = new Map<number, number>()
  for (const row of kept) perPad.set(row.padIndex, (perPad.get(row.padIndex) ?? 0) + 1)
  return {
    pads: perPad.size, notes: notesUsed(kit, [...perPad.keys()], target), layers: Math.max(0, ...perPad.values()), samples: written.length,
    seconds: written.reduce((sum, row) => sum + row.variant!.seconds, 0), bytes: written.reduce((sum, row) => sum + row.variant!.bytes, 0),
    longestSeconds: Math.max(0, ...kept.map(row => row.variant!.seconds)),
  }
}
