/** Where a zone of one side lies, by what it must share with that of the other. */
export interface Side {
  /** Same for both sides of a pair. */
  readonly key: string
  readonly side: 'left' | 'right'
}

/**
 * Finds the pairs among the zones of an instrument whose two sides are stored apart.
 *
 * @param sideOf what a zone has to share with its partner, and its side; undefined for a zone of its own
 * @returns zones alone and in pairs, in the order of the first of each
 */
export function pairedUp<Z>(zones: readonly Z[], sideOf: (zone: Z) => Side | undefined): (readonly [Z] | readonly [left: Z, right: Z])[] {
  const waiting = new Map<string, { at: number, side: Side['side'], zone: Z }[]>()
  const out: (readonly [Z] | readonly [Z, Z] | undefined)[] = []
  for (const zone of zones) {
    const own = sideOf(zone)
    const partners = own && waiting.get(own.key)
    const partner = partners?.findIndex(candidate => candidate.side !== own?.side) ?? -1
    if (own && partners && partner >= 0) {
      const [found] = partners.splice(partner, 1)
      out[found!.at] = own.side === 'left' ? [zone, found!.zone] : [found!.zone, zone]
      continue
    }
    if (own) waiting.set(own.key, [...partners ?? [], { at: out.length, side: own.side, zone }])
    out.push([zone])
  }
  return out.filter(pair => pair !== undefined)
}
