import type { History } from './history'

/** How the difference of two states of a document is kept in little. */
export interface Deltas<T, D> {
  readonly deltaOf: (before: T, after: T) => D
  readonly applyDelta: (before: T, delta: D) => T
}

/** A history as it is written down: one state whole, each other by what changed since the one before. */
export interface KeptHistory<T, D> {
  readonly first: T
  readonly steps: readonly { readonly label: string, readonly gesture?: string, readonly delta: D }[]
  /** How many of the steps are behind the present. */
  readonly past: number
}

/** Makes a history small enough to be written down. */
export function keepSteps<T, D>({ past, present, future }: History<T>, { deltaOf }: Deltas<T, D>): KeptHistory<T, D> {
  const states = [...past.map(step => step.state), present, ...future.map(step => step.state)]
  const named = [...past, ...future]
  return {
    first: states[0]!,
    steps: named.map(({ label, gesture }, i) => ({ label, ...(gesture === undefined ? {} : { gesture }), delta: deltaOf(states[i]!, states[i + 1]!) })),
    past: past.length,
  }
}

/** Brings a history back from what was written down. */
export function recallSteps<T, D>({ first, steps, past }: KeptHistory<T, D>, { applyDelta }: Deltas<T, D>): History<T> {
  const states: T[] = [first]
  for (const { delta } of steps) states.push(applyDelta(states.at(-1)!, delta))
  const step = (i: number, state: T) => ({ state, label: steps[i]!.label, ...(steps[i]!.gesture === undefined ? {} : { gesture: steps[i]!.gesture }) })
  return {
    past: Array.from({ length: past }, (_, i) => step(i, states[i]!)),
    present: states[past]!,
    future: Array.from({ length: steps.length - past }, (_, i) => step(past + i, states[past + i + 1]!)),
  }
}
