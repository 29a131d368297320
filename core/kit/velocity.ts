import type { Pad } from './document'

/**
 * Gain of a velocity where a pad has no curve: (velocity / 127)^2, so that 127 is full.
 * Source: SFZ v1, `amp_veltrack` at its default of 100 %; General MIDI recommends the same curve.
 */
export function velocityGain(velocity: number): number {
  return (velocity / 127) ** 2
}

/**
 * Gain of a velocity on a pad, 0 to 1: its curve, as far as it follows it. Followed the other way round, the softest hit is the
 * loudest. Source: SFZ v1, `amp_velcurve_N` (straight between the points, 1 at 127 where that is none) and `amp_veltrack`; that
 * part of a track counts in gain, not in dB, is as later players have it (common practice).
 */
export function velocityLevel({ velocityTrack, velocityCurve }: Pick<Pad, 'velocityTrack' | 'velocityCurve'>, velocity: number): number {
  const level = velocityCurve ? levelOnCurve(velocityCurve, velocity) : velocityGain(velocity)
  if (velocityTrack === 1) return level
  return velocityTrack < 0 ? 1 + velocityTrack * level : 1 - velocityTrack * (1 - level)
}

function levelOnCurve(points: NonNullable<Pad['velocityCurve']>, velocity: number): number {
  const next = points.find(point => point.velocity >= velocity) ?? { velocity: 127, level: 1 }
  const last = points.findLast(point => point.velocity <= velocity) ?? { velocity: 0, level: 0 }
  if (next.velocity <= last.velocity) return last.level
  return last.level + (next.level - last.level) * (velocity - last.velocity) / (next.velocity - last.velocity)
}
