import type { Articulation, Kit } from './document'
import { rangeAt } from './ranges'

/** The articulation in force for each kit that plays: kits that are played as one have one each, told by what their ids begin with. */
export type InForce = ReadonlyMap<string, string>

/** What the ids of one kit's articulations begin with when several kits are played as one. */
function scopeOf(id: string): string {
  return id.slice(0, id.indexOf('/') + 1)
}

/** What is in force before any is chosen: what the kit says, else its first. */
export function firstInForce(kit: Kit): InForce {
  const found = new Map<string, string>()
  for (const { id } of kit.articulations) {
    if (!found.has(scopeOf(id)) || id === kit.articulation) found.set(scopeOf(id), id)
  }
  return found
}

/** What stays in force when the kit changes: what was, as far as it still is there. */
export function stillInForce(kit: Kit, before: InForce): InForce {
  const ids = new Set(kit.articulations.map(({ id }) => id))
  return new Map([...firstInForce(kit)].map(([scope, id]) => [scope, ids.has(before.get(scope) ?? '') ? before.get(scope)! : id]))
}

/** The same with one brought into force in place of another of its kit. */
export function withInForce(inForce: InForce, id: string): InForce {
  return inForce.get(scopeOf(id)) === id ? inForce : new Map(inForce).set(scopeOf(id), id)
}

/** The articulation that a key brings into force. */
export function articulationOfKey(kit: Kit, key: number): Articulation | undefined {
  return kit.articulations.find(articulation => articulation.key === key)
}

/** The articulation that a value of the kit's controller chooses, over equal ranges. */
export function articulationAt(kit: Kit, value: number): Articulation | undefined {
  return kit.articulations[rangeAt(value, kit.articulations.length)]
}

/** Whether a pad sounds in what is in force. */
export function isInForce(inForce: InForce, articulation: string | null): boolean {
  return articulation === null || inForce.get(scopeOf(articulation)) === articulation
}
