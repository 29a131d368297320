import { applyDelta, deltaOf, type KitDelta } from './delta'
import type { Kit } from './document'
import type { History } from './history'

/** A history as it is written down: one state whole, each other by what changed since the one before. */
export interface KeptHistory {
  readonly first: Kit
  readonly steps: readonly { readonly label: string, readonly gesture?: string, readonly delta: KitDelta }[]
  /** How many of the steps are behind the present. */
  readonly past: number
}

/** Makes a history small enough to be written down. */
export function keepSteps({ past, present, future }: History<Kit>): KeptHistory {
  const states = [...past.map(step => step.state), present, ...future.map(step => step.state)]
  const named = [...past, ...future]
  return {
    first: states[0]!,
    steps: named.map(({ label, gesture }, i) => ({ label, ...(gesture === undefined ? {} : { gesture }), delta: deltaOf(states[i]!, states[i + 1]!) })),
    past: past.length,
  }
}

/** Brings a history back from what was written down. */
export function recallSteps({ first, steps, past }: KeptHistory): History<Kit> {
  const states: Kit[] = [first]
  for (const { delta } of steps) states.push(applyDelta(states.at(-1)!, delta))
  const step = (i: number, state: Kit) => ({ state, label: steps[i]!.label, ...(steps[i]!.gesture === undefined ? {} : { gesture: steps[i]!.gesture }) })
  return {
    past: Array.from({ length: past }, (_, i) => step(i, states[i]!)),
    present: states[past]!,
    future: Array.from({ length: steps.length - past }, (_, i) => step(past + i, states[past + i + 1]!)),
  }
}
