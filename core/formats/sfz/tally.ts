import type { Loss, NotCarried } from '../zones/zone'

/** What is told of one thing, gathered over all regions. */
export class Tally {
  private readonly counts = new Map<string, { readonly what: string, readonly loss: Loss, count: number }>()

  add(where: string, what: string, loss: Loss = 'changed'): void {
    const held = this.counts.get(where)
    if (held) held.count++
    else this.counts.set(where, { what, loss, count: 1 })
  }

  get list(): NotCarried[] {
    return [...this.counts].map(([where, { what, loss, count }]) => ({ where, what: `${what}${count > 1 ? ` (${count} regions)` : ''}`, loss }))
  }
}
