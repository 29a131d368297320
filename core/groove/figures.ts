import { barTicks, type Part, type Pattern } from './document'

/** What can be counted of a part. */
export interface PartFigures {
  readonly hits: number
  readonly hitsPerBar: number
  /** Softest and hardest velocity; null without hits. */
  readonly softest: number | null
  readonly hardest: number | null
  /** Between the softest and the hardest, by the square law that velocities are played by, in dB. */
  readonly rangeDb: number
  readonly meanVelocity: number
}

/** Counts the hits of a part that lie within the pattern, and the range of their velocities. */
export function figuresOf(part: Part, pattern: Pick<Pattern, 'metre' | 'bars'>): PartFigures {
  const end = barTicks(pattern.metre) * pattern.bars
  const velocities = part.hits.filter(hit => hit.tick < end).map(hit => hit.velocity)
  const [softest, hardest] = velocities.length === 0 ? [null, null] : [Math.min(...velocities), Math.max(...velocities)]
  return {
    hits: velocities.length,
    hitsPerBar: velocities.length / pattern.bars,
    softest,
    hardest,
    // 20 log10((hard / soft)^2): see `velocityGain`.
    rangeDb: softest === null || hardest === null ? 0 : 40 * Math.log10(hardest / softest),
    meanVelocity: velocities.reduce((sum, velocity) => sum + velocity, 0) / Math.max(1, velocities.length),
  }
}
