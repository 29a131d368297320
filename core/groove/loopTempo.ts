const LIKELY_BPM = 115
const LENGTHS_IN_BEATS = [2, 4, 8, 16, 32, 64]

/** Length of a loop in quarter notes, and its tempo. */
export interface LoopTempo {
  readonly beats: number
  readonly bpm: number
}

/**
 * How many beats a loop has, from its length and what is said of its tempo; without that, the number of beats that gives the
 * likeliest tempo (common practice: loops last whole bars, at about 115 beats a minute).
 */
export function loopTempo(lengthSeconds: number, statedBpm?: number): LoopTempo {
  const stated = statedBpm && statedBpm > 20 && statedBpm < 400 ? Math.max(1, Math.round(lengthSeconds * statedBpm / 60)) : undefined
  if (stated !== undefined) return { beats: stated, bpm: stated * 60 / lengthSeconds }
  const off = (beats: number) => Math.abs(Math.log2(beats * 60 / lengthSeconds / LIKELY_BPM))
  const beats = LENGTHS_IN_BEATS.reduce((best, next) => off(next) < off(best) ? next : best)
  return { beats, bpm: beats * 60 / lengthSeconds }
}
