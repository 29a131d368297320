import type { SoundToPlace } from '../../core/kit/edits'

/** A made-up sound to be put on a pad. */
export function testSound(n: number, frames = 1000): SoundToPlace {
  return { sound: { id: n.toString(16).padStart(64, '0'), name: `Sound ${n}`, frames, sampleRate: 48_000, channels: 1 }, kind: n % 2 ? 'kick' : null }
}
