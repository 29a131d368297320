import { fromDb } from '../audio/level'

/**
 * Drives samples against a soft edge, in place: tanh(g x) / tanh(g) with g = 10^(drive/20) - 1. Full scale stays full
 * scale, what is softer comes up, and at 0 dB nothing changes. Source: the usual hyperbolic tangent shaper (common practice).
 */
export function drive(samples: Float32Array, count: number, driveDb: number): void {
  if (driveDb <= 0) return
  const g = fromDb(driveDb) - 1
  const scale = 1 / Math.tanh(g)
  for (let i = 0; i < count; i++) samples[i] = Math.tanh(g * samples[i]!) * scale
}
