import { barTicks, countHits, type Metre, type Pattern, type Swing } from '../../core/groove/document'

/** What a list shows of a pattern. */
export interface PatternSummary {
  readonly name: string
  readonly tempoBpm: number
  readonly metre: Metre
  readonly bars: number
  readonly swing: Swing
  readonly hits: number
  readonly hitsPerBar: number
  /** Kinds of its parts, those with hits. */
  readonly kinds: readonly string[]
}

export function summaryOf(pattern: Pattern): PatternSummary {
  const { name, tempoBpm, metre, bars, swing } = pattern
  const end = barTicks(metre) * bars
  const heard = pattern.parts.reduce((sum, part) => sum + part.hits.filter(hit => hit.tick < end).length, 0)
  const kinds = pattern.parts.filter(part => part.hits.length > 0).flatMap(part => part.role ?? [])
  return { name, tempoBpm, metre, bars, swing, hits: countHits(pattern), hitsPerBar: heard / bars, kinds: [...new Set(kinds)] }
}
