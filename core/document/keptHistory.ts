import { applyDifference, differenceOf, invertDifference, type Difference } from './difference'
import type { History } from './history'

interface KeptStep {
  readonly label: string
  readonly gesture?: string
  readonly difference: Difference
}

/** A history as it is written down: the present whole, and the steps to and from it by what they change. */
export interface KeptHistory<T> {
  readonly present: T
  /** The oldest first. */
  readonly past: readonly KeptStep[]
  readonly future: readonly KeptStep[]
}

/**
 * Makes a history small enough to be written down.
 *
 * @param most values of changes that are kept of the past; the oldest steps beyond are left out
 */
export function keepSteps<T>({ past, present, future }: History<T>, most = Infinity): KeptHistory<T> {
  const after = [...past.slice(1).map(step => step.state), present]
  const steps: KeptStep[] = []
  let weight = 0
  for (const [i, { state, ...named }] of [...past.entries()].toReversed()) {
    const difference = differenceOf(state, after[i])
    weight += weightOf(difference)
    if (weight > most) break
    steps.unshift({ ...named, difference })
  }
  const before = [present, ...future.map(step => step.state)]
  return { present, past: steps, future: future.map(({ state, ...named }, i) => ({ ...named, difference: differenceOf(before[i], state) })) }
}

/** Single values that a difference writes down. */
function weightOf(value: unknown): number {
  if (typeof value !== 'object' || value === null) return 1
  let weight = 1
  for (const inner of Object.values(value)) weight += weightOf(inner)
  return weight
}

/** Brings a history back from what was written down. @throws EmporionError `invalid` where its steps do not belong together */
export function recallSteps<T>({ present, past, future }: KeptHistory<T>): History<T> {
  let state = present
  const before = past.toReversed().map(({ difference, ...named }) => ({ ...named, state: state = applyDifference(state, invertDifference(difference)) })).reverse()
  state = present
  const after = future.map(({ difference, ...named }) => ({ ...named, state: state = applyDifference(state, difference) }))
  return { past: before, present, future: after }
}
