import { emptyPattern, type Pattern } from '../../core/groove/document'
import { addHits, addPart } from '../../core/groove/edits'

/** A pattern with hits of some kinds at some ticks, all alike. */
export function drawn(ticks: Readonly<Record<string, readonly number[]>>, bars = 2): Pattern {
  return Object.entries(ticks).reduce((pattern, [role, own], i) => {
    const grown = addPart(pattern, { name: role, role, note: 36 + i })
    return addHits(grown, `part-${i + 1}`, own.map(tick => ({ tick, velocity: 100, length: 120 }))).pattern
  }, emptyPattern('Drawn', bars))
}
