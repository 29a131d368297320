import { mix, silence, type Random } from './dsp'
import type { Drum } from './drums'

/** One part of a loop: a drum and its sixteenths, `x` loud, `o` soft, `.` nothing. */
export interface Part {
  readonly drum: Drum
  readonly steps: string
  readonly gain: number
}

/** Plays two bars of four at a tempo, exactly as long as they are. */
export function loop(random: Random, bpm: number, parts: readonly Part[]): Float32Array {
  const step = 60 / bpm / 4
  const out = silence(step * 32)
  for (const { drum, steps, gain } of parts) {
    const hits = { x: drum(random, 0.9), o: drum(random, 0.3) }
    for (let i = 0; i < 32; i++) {
      const mark = steps[i % steps.length]
      if (mark === 'x') mix(out, hits.x, gain, i * step)
      else if (mark === 'o') mix(out, hits.o, gain * 0.5, i * step)
    }
  }
  return out
}
