/** What one way to do a part of the work takes of each thing that is scarce, what it costs, and what it is. */
export interface Choice<T> {
  readonly uses: readonly number[]
  readonly cost: number
  readonly what: T
}

/** All that is worth keeping of the choices for the parts so far: what each takes and costs, and how it came about. */
interface Stage {
  readonly count: number
  readonly uses: readonly Float64Array[]
  readonly cost: Float64Array
  /** The state of the stage before, and the choice that was added to it. */
  readonly before: Int32Array
  readonly choice: Int32Array
}

/** More combinations than this are gathered in bins of what they use, and the cheapest of each goes on. */
const MOST_EXACT = 5_000
/** Bins of each scarce thing, by how many of them there are. */
const BINS = [1, 2_500, 70, 24, 12] as const

/**
 * Chooses one of several ways for each part of the work, so that the sum of costs is the lowest of all whose sums of uses stay
 * within what there is. Exact as long as there are no more than some thousand combinations worth keeping; above that those that
 * use nearly the same are taken for one, while what they use is still counted exactly.
 * Source: G. L. Nemhauser, Z. Ullmann, "Discrete dynamic programming and capital allocation" (1969), for the multiple-choice
 * knapsack problem.
 *
 * @param limits what there is of each scarce thing
 * @returns what was chosen for each part and what that costs, or undefined when nothing stays within the limits
 */
export function cheapest<T>(parts: readonly (readonly Choice<T>[])[], limits: readonly number[]): { readonly chosen: readonly T[], readonly cost: number } | undefined {
  const least = leastUses(parts, limits.length)
  const stages: Stage[] = [{ count: 1, uses: limits.map(() => new Float64Array(1)), cost: new Float64Array(1), before: new Int32Array(1), choice: new Int32Array(1) }]
  parts.forEach((choices, part) => {
    const room = limits.map((limit, i) => limit - least[part + 1]![i]! + SLACK)
    const last = stages.at(-1)!
    stages.push(last.count * choices.length > MOST_EXACT && limits.length > 0 ? binnedStage(last, choices, room, limits) : exactStage(last, choices, room))
  })
  const end = stages.at(-1)!
  if (end.count === 0) return undefined
  let at = end.cost.subarray(0, end.count).reduce((best, cost, i) => cost < end.cost[best]! ? i : best, 0)
  const cost = end.cost[at]!
  const chosen: T[] = []
  for (let part = parts.length; part > 0; part--) {
    const stage = stages[part]!
    chosen.push(parts[part - 1]![stage.choice[at]!]!.what)
    at = stage.before[at]!
  }
  return { chosen: chosen.reverse(), cost }
}

/** Every state with every choice that stays within the room, less those that are beaten. */
function exactStage<T>(last: Stage, choices: readonly Choice<T>[], room: readonly number[]): Stage {
  const made: { uses: number[], cost: number, before: number, choice: number }[] = []
  for (let before = 0; before < last.count; before++) {
    for (const [choice, { uses: more, cost }] of choices.entries()) {
      const uses = last.uses.map((use, i) => use[before]! + more[i]!)
      if (uses.every((use, i) => use <= room[i]!)) made.push({ uses, cost: last.cost[before]! + cost, before, choice })
    }
  }
  const kept = undominated(made, room.length)
  return {
    count: kept.length,
    uses: room.map((_, i) => Float64Array.from(kept, one => one.uses[i]!)),
    cost: Float64Array.from(kept, one => one.cost),
    before: Int32Array.from(kept, one => one.before),
    choice: Int32Array.from(kept, one => one.choice),
  }
}

/** The same with the cheapest of each bin alone. */
function binnedStage<T>(last: Stage, choices: readonly Choice<T>[], room: readonly number[], limits: readonly number[]): Stage {
  const dimensions = limits.length
  const bins = BINS[dimensions] ?? 8
  const size = (bins + 1) ** dimensions
  const cost = new Float64Array(size).fill(Infinity)
  const before = new Int32Array(size)
  const choice = new Int32Array(size)
  for (let state = 0; state < last.count; state++) {
    for (let c = 0; c < choices.length; c++) {
      const one = choices[c]!
      let key = 0
      let fits = true
      for (let i = 0; i < dimensions; i++) {
        const use = last.uses[i]![state]! + one.uses[i]!
        if (use > room[i]!) {
          fits = false
          break
        }
        key = key * (bins + 1) + Math.min(bins, Math.floor(use / limits[i]! * bins))
      }
      const sum = last.cost[state]! + one.cost
      if (!fits || sum >= cost[key]!) continue
      cost[key] = sum
      before[key] = state
      choice[key] = c
    }
  }
  const full = Array.from(cost.keys()).filter(key => cost[key]! < Infinity)
  const usesOf = (key: number, i: number) => last.uses[i]![before[key]!]! + choices[choice[key]!]!.uses[i]!
  // Along one limit a bin that costs no less than one below it is beaten.
  let low = Infinity
  const kept = dimensions > 1 ? full : full.filter((key) => {
    if (cost[key]! >= low) return false
    low = cost[key]!
    return true
  })
  return {
    count: kept.length,
    uses: limits.map((_, i) => Float64Array.from(kept, key => usesOf(key, i))),
    cost: Float64Array.from(kept, key => cost[key]!),
    before: Int32Array.from(kept, key => before[key]!),
    choice: Int32Array.from(kept, key => choice[key]!),
  }
}

/** Against what is lost in adding up seconds. */
const SLACK = 1e-9

/** What the parts from each one on need at least, each scarce thing by itself. */
function leastUses<T>(parts: readonly (readonly Choice<T>[])[], count: number): number[][] {
  const out: number[][] = [Array.from({ length: count }, () => 0)]
  for (const choices of parts.toReversed()) {
    const after = out[0]!
    out.unshift(after.map((use, i) => use + choices.reduce((low, choice) => Math.min(low, choice.uses[i]!), Infinity)))
  }
  return out
}

/** Leaves out what is dearer than another that uses no more of anything. */
export function undominated<S extends { readonly uses: readonly number[], readonly cost: number }>(all: readonly S[], dimensions: number): S[] {
  const sorted = all.toSorted((a, b) => a.cost - b.cost || a.uses.reduce((sum, use, i) => sum + use - b.uses[i]!, 0))
  if (dimensions === 0) return sorted.slice(0, 1)
  if (dimensions === 2) {
    const stairs = new Staircase()
    return sorted.filter(({ uses }) => stairs.add(uses[0]!, uses[1]!))
  }
  const kept: S[] = []
  let least = Infinity
  for (const one of sorted) {
    const beaten = dimensions === 1 ? one.uses[0]! >= least : kept.some(other => other.uses.every((use, i) => use <= one.uses[i]!))
    if (beaten) continue
    least = one.uses[0]!
    kept.push(one)
  }
  return kept
}

/** Points none of which lies below and left of another: from left to right they go down. */
class Staircase {
  private readonly xs: number[] = []
  private readonly ys: number[] = []

  /** Adds a point; false for one that lies above and right of another, or on it. */
  add(x: number, y: number): boolean {
    let [low, high] = [0, this.xs.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.xs[middle]! <= x) low = middle + 1
      else high = middle
    }
    if (low > 0 && this.ys[low - 1]! <= y) return false
    const from = low > 0 && this.xs[low - 1] === x ? low - 1 : low
    let to = low
    while (to < this.xs.length && this.ys[to]! >= y) to++
    this.xs.splice(from, to - from, x)
    this.ys.splice(from, to - from, y)
    return true
  }
}
