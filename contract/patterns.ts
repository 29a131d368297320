import type { Metre, Pattern, Swing } from '../core/groove/document'

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

/** A pattern as a list shows it. */
export interface PatternRow extends PatternSummary {
  readonly id: string
  readonly folder: string
  readonly tags: readonly string[]
  readonly favourite: boolean
  readonly isShipped: boolean
  readonly updatedAt: string
  /** Names of the presets that hold it. */
  readonly usedIn: readonly string[]
}

/** A pattern whole, with the revision that the next edit must build on. */
export interface PatternView {
  readonly id: string
  readonly pattern: Pattern
  readonly revision: number
  readonly isShipped: boolean
  readonly folder: string
}
