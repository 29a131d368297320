/** A note of a pattern: when in quarter notes from its beginning, which, and how hard. */
export interface PatternNote {
  readonly beat: number
  readonly note: number
  /** 1 to 127. */
  readonly velocity: number
}

/** Notes that repeat after some beats (quarter notes). */
export interface Pattern {
  readonly beats: number
  readonly notes: readonly PatternNote[]
}
