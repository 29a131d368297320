import { MOST_ARTICULATIONS, type Articulation } from '../../kit/document'
import type { Tally } from '../zones/tally'
import type { Opcodes } from './values'

/** What sounds while no key that must be held is. */
const OPEN: Articulation = { id: 'open', name: 'Usual', key: null, whileHeld: false }

/**
 * Collects the articulations that regions of an SFZ file name by their keys.
 * Source: SFZ v1, `sw_last`, `sw_down`, `sw_up`, `sw_lokey`, `sw_hikey`; `sw_default` and `sw_label` as later players have them
 * (common practice).
 */
export class Articulations {
  private readonly found = new Map<string, Articulation>()
  private first: number | undefined

  constructor(private readonly tally: Tally) {}

  /** The articulation that a region sounds in; null: in all. */
  of(op: Opcodes, shift: (note: number) => number): string | null {
    const [last, down, up, first] = [op.note('sw_last'), op.note('sw_down'), op.note('sw_up'), op.note('sw_default')]
    const label = op.text('sw_label')
    op.text('sw_lokey', 'sw_hikey')
    if (op.note('sw_previous') !== undefined) this.tally.add('sw_previous', 'What was played before chooses nothing in a kit; the region sounds after any note.')
    if (first !== undefined) this.first ??= shift(first)
    if (last !== undefined) return this.add({ id: `key-${shift(last)}`, name: label ?? `Key ${shift(last)}`, key: shift(last), whileHeld: false })
    if (down !== undefined) return this.add({ id: `held-${shift(down)}`, name: label ?? `Key ${shift(down)} held`, key: shift(down), whileHeld: true })
    return up === undefined ? null : this.add(OPEN)
  }

  made(): { readonly articulations: readonly Articulation[], readonly articulation: string | null } {
    // One that is in force at first may have no region: then those of the others are silent until their key is pressed.
    const first = this.first === undefined || this.found.size === 0 ? undefined : `key-${this.first}`
    if (first !== undefined && !this.found.has(first)) this.add({ id: first, name: `Key ${this.first}`, key: this.first!, whileHeld: false })
    const all = [...this.found.values()]
    const held = all.filter(one => one.whileHeld)
    if (held.length > 0 && held.length < all.length && all.some(one => !one.whileHeld && one !== OPEN)) {
      this.tally.add('sw_down', 'While such a key is held, regions of sw_last are silent: a kit has one articulation in force.', 'lost')
    }
    // Keys that must be held leave another in force while none is.
    const articulations = held.length === all.length && held.length > 0 ? [OPEN, ...all] : all.includes(OPEN) ? [OPEN, ...all.filter(one => one !== OPEN)] : all
    const isThere = articulations.some(one => one.id === first)
    if (articulations.length > 0 && !isThere && articulations[0] !== OPEN) this.tally.add('sw_default', 'No articulation is in force at first; in the kit it is the first one.')
    return { articulations, articulation: isThere ? first! : null }
  }

  private add(articulation: Articulation): string | null {
    const known = this.found.get(articulation.id)
    if (!known && this.found.size >= MOST_ARTICULATIONS - 1) {
      this.tally.add('sw_last', `A kit has ${MOST_ARTICULATIONS} articulations; regions of the others sound in all.`, 'lost')
      return null
    }
    if (!known) this.found.set(articulation.id, articulation)
    return articulation.id
  }
}
