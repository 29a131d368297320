import { groupBy } from '../groupBy'
import type { Kit } from '../kit/document'
import { distanceDb, lossOf, ratioOfDistance } from './cost'
import type { SampleMeasure } from './measure'
import type { PadUnits } from './units'

/** A pad that is left out is missed more than anything that can be done to its samples, which costs 1 at most. */
const LEAST = 1

/**
 * What it costs to leave each pad out, 1 to 3: more where it is the only one of its kind, and where no other of its kind sounds
 * like it. So of ten kicks one goes before the only open hi-hat does.
 *
 * @param known the measures of each pad's samples; the last one, of the hardest hits, stands for the pad
 */
export function leavingCosts(kit: Kit, pads: readonly PadUnits[], known: readonly (readonly SampleMeasure[])[]): number[] {
  const kindOf = (i: number) => {
    const { role } = kit.pads[pads[i]!.padIndex]!
    return role ?? `pad ${i}`
  }
  const families = groupBy(pads.map((_, i) => i), kindOf)
  return pads.map((_, i) => {
    const others = families.get(kindOf(i))!.filter(other => other !== i)
    const nearest = Math.min(...others.map(other => distanceDb(known[i]!.at(-1)!, known[other]!.at(-1)!)))
    const unlike = others.length === 0 ? 1 : lossOf(ratioOfDistance(nearest))
    return LEAST + unlike + 1 / (others.length + 1)
  })
}
