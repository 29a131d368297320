/** What one way to do a part of the work takes of each thing that is scarce, what it costs, and what it is. */
export interface Choice<T> {
  readonly uses: readonly number[]
  readonly cost: number
  readonly what: T
}

/** A choice for each of the parts so far: the last one, and those before it. */
interface State<T> {
  readonly uses: readonly number[]
  readonly cost: number
  readonly what: T | undefined
  readonly before: State<T> | undefined
}

/** More states than this are gathered in bins of what they use, and the cheapest of each goes on. */
const EXACT_STATES = 4_000
const BINS = [1, 2_000, 90, 24, 12] as const

/**
 * Chooses one of several ways for each part of the work, so that the sum of costs is the lowest of all whose sums of uses stay
 * within what there is. Exact as long as no more than some thousand states are worth keeping; above that states that use nearly
 * the same are taken for one, while what they use is still counted exactly.
 * Source: G. L. Nemhauser, Z. Ullmann, "Discrete dynamic programming and capital allocation" (1969), for the multiple-choice
 * knapsack problem.
 *
 * @param limits what there is of each scarce thing
 * @returns what was chosen for each part and what that costs, or undefined when nothing stays within the limits
 */
export function cheapest<T>(parts: readonly (readonly Choice<T>[])[], limits: readonly number[]): { readonly chosen: readonly T[], readonly cost: number } | undefined {
  const least = leastUses(parts, limits.length)
  let states: State<T>[] = [{ uses: limits.map(() => 0), cost: 0, what: undefined, before: undefined }]
  parts.forEach((choices, part) => {
    const room = limits.map((limit, i) => limit - least[part + 1]![i]!)
    const next: State<T>[] = []
    for (const state of states) {
      for (const choice of choices) {
        const uses = state.uses.map((use, i) => use + choice.uses[i]!)
        if (uses.every((use, i) => use <= room[i]! + SLACK)) next.push({ uses, cost: state.cost + choice.cost, what: choice.what, before: state })
      }
    }
    states = undominated(next, limits)
  })
  const [best] = states.toSorted((a, b) => a.cost - b.cost)
  return best && { chosen: unrolled(best), cost: best.cost }
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

function unrolled<T>(state: State<T>): T[] {
  const out: T[] = []
  for (let at: State<T> | undefined = state; at?.before; at = at.before) out.push(at.what!)
  return out.reverse()
}

/** Leaves out what is dearer than another that uses no more of anything. */
export function undominated<S extends { readonly uses: readonly number[], readonly cost: number }>(all: readonly S[], limits: readonly number[]): S[] {
  const sorted = all.toSorted((a, b) => a.cost - b.cost || a.uses.reduce((sum, use, i) => sum + use - b.uses[i]!, 0))
  if (limits.length === 0) return sorted.slice(0, 1)
  if (limits.length === 1) {
    let least = Infinity
    const kept = sorted.filter(({ uses }) => {
      if (uses[0]! >= least) return false
      least = uses[0]!
      return true
    })
    return kept.length > EXACT_STATES ? binned(kept, limits) : kept
  }
  const few = sorted.length > EXACT_STATES ? binned(sorted, limits) : sorted
  const kept: S[] = []
  for (const one of few) if (!kept.some(other => other.uses.every((use, i) => use <= one.uses[i]!))) kept.push(one)
  return kept
}

/** The cheapest of those that use nearly the same; they come sorted by cost. */
function binned<S extends { readonly uses: readonly number[] }>(sorted: readonly S[], limits: readonly number[]): S[] {
  const bins = BINS[limits.length] ?? 8
  const found = new Map<number, S>()
  for (const one of sorted) {
    const key = one.uses.reduce((sum, use, i) => sum * (bins + 1) + Math.min(bins, Math.floor(use / limits[i]! * bins)), 0)
    if (!found.has(key)) found.set(key, one)
  }
  return [...found.values()]
}
