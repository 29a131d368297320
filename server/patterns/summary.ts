import { barTicks, countHits, type Pattern } from '../../core/groove/document'
import type { PatternSummary } from '../../contract/patterns'

export function summaryOf(pattern: Pattern): PatternSummary {
  const { name, tempoBpm, metre, bars, swing } = pattern
  const end = barTicks(metre) * bars
  const heard = pattern.parts.reduce((sum, part) => sum + part.hits.filter(hit => hit.tick < end).length, 0)
  const kinds = pattern.parts.filter(part => part.hits.length > 0).flatMap(part => part.role ?? [])
  return { name, tempoBpm, metre, bars, swing, hits: countHits(pattern), hitsPerBar: heard / bars, kinds: [...new Set(kinds)] }
}
