import { counted, listed } from '../../wording'
import type { Loss, NotCarried } from './zone'

const MOST_NAMED = 6

interface Held {
  readonly what: string
  readonly loss: Loss
  count: number
  readonly of: Set<string>
}

/** Collects reports about an import: one for each matter, with how many regions or zones it concerns. */
export class Tally {
  private readonly held = new Map<string, Held>()

  constructor(private readonly noun: string) {}

  /** @param of the sound that it concerns */
  add(where: string, what: string, loss: Loss = 'changed', of?: string): void {
    const held = this.held.get(where) ?? { what, loss, count: 0, of: new Set<string>() }
    held.count++
    if (of !== undefined) held.of.add(of)
    this.held.set(where, held)
  }

  get list(): NotCarried[] {
    return [...this.held].map(([where, { what, loss, count, of }]) => {
      const names = of.size > 0 ? `: ${listed([...of], MOST_NAMED)}` : ''
      return { where, what: `${what}${count > 1 || names ? ` (${counted(count, this.noun)}${names})` : ''}`, loss, ...of.size > 0 ? { of: [...of] } : {} }
    })
  }
}
