import { addModes, decay, fill, filter, mix, noiseBurst, silence, SYNTH_RATE, type Mode, type Random } from '../../demo/synth/dsp'

/** One sound to learn from, by chance alone. */
export type Maker = (random: Random) => Float32Array

/** Evenly spread on a scale of ratios. */
export function spread(random: Random, low: number, high: number): number {
  return low * (high / low) ** random.between(0, 1)
}

export function chance(random: Random, part: number): boolean {
  return random.between(0, 1) < part
}

/** A tone that falls from one frequency to another, of a shape between a sine and a square. */
export function fallingTone(seconds: number, fromHz: number, toHz: number, fallSeconds: number, t60: number, hardness = 0): Float32Array {
  let phase = 0
  return fill(seconds, (t) => {
    phase += 2 * Math.PI * (toHz + (fromHz - toHz) * Math.exp(-t / fallSeconds)) / SYNTH_RATE
    const sine = Math.sin(phase)
    return (hardness > 0 ? Math.tanh(sine * (1 + hardness * 6)) : sine) * decay(t, t60)
  })
}

/** Modes at given ratios, each a little off, the higher ones weaker and shorter. */
export function modesAt(random: Random, hz: number, ratios: readonly number[], t60: number, tilt: number, damping: number): Mode[] {
  return ratios.map((ratio, i) => ({
    hz: hz * ratio * random.between(0.97, 1.03),
    level: random.between(0.5, 1) / (1 + i) ** tilt,
    t60: t60 * random.between(0.6, 1.2) / (1 + i * damping),
  }))
}

/** Many modes in no order, evenly spread over a range on a scale of ratios; the higher ones weaker or stronger. */
export function manyModes(random: Random, count: number, low: number, high: number, t60: number, damping = 0.3): Mode[] {
  const rise = random.between(-0.2, 0.9)
  return Array.from({ length: count }, () => {
    const hz = spread(random, low, high)
    return { hz, level: random.between(0.1, 1) / Math.sqrt(count) * (hz / low) ** rise, t60: t60 * random.between(0.4, 1.1) * (low / hz) ** damping }
  })
}

/** Square waves in no harmonic order. */
export function squares(random: Random, count: number, low: number, high: number, seconds: number, t60: number): Float32Array {
  const hz = Array.from({ length: count }, () => spread(random, low, high))
  return fill(seconds, t => hz.reduce((sum, f) => sum + ((f * t) % 1 < 0.5 ? 1 : -1), 0) / count * decay(t, t60))
}

/** A beginning that takes its time, in place. */
export function soften(samples: Float32Array, seconds: number): Float32Array {
  const frames = Math.min(samples.length, Math.round(seconds * SYNTH_RATE))
  for (let i = 0; i < frames; i++) samples[i]! *= Math.sin(Math.PI / 2 * i / frames) ** 2
  return samples
}

/** What a stick, a beater or a hand adds at the first touch. */
export function touch(random: Random, out: Float32Array, level: number, low: number, high: number): Float32Array {
  return mix(out, noiseBurst(random, 0.03, random.between(0.003, 0.02), 'band', spread(random, low, high), random.between(0.4, 1.5)), level)
}

/** Noise in a band, with an attack and a decay that may have two parts. */
export function wash(random: Random, seconds: number, attack: number, t60: number, low: number, high: number): Float32Array {
  const quick = random.between(0, 0.7)
  const out = fill(seconds, t => random.noise() * Math.min(1, t / Math.max(1e-4, attack)) * ((1 - quick) * decay(t, t60) + quick * decay(t, t60 / 4)))
  return filter(filter(out, 'high', low), 'low', high)
}

/**
 * Noise in bands from `low` to `high`, each with a beginning and a decay of its own. Bronze answers so: what is struck rings
 * low at once and wanders upward within milliseconds, and the top dies away first. `late`: how long the top takes to come, in
 * seconds; `fading`: the power of frequency by which decays shorten. Source: Rossing, "Science of Percussion Instruments"
 * (from memory).
 */
export function bronze(random: Random, seconds: number, low: number, high: number, t60: number, late: number, fading: number): Float32Array {
  const out = silence(seconds)
  const bands = 10
  const rise = random.between(-0.5, 0.7)
  for (let band = 0; band < bands; band++) {
    const hz = low * (high / low) ** (band / (bands - 1))
    const attack = late * (band / bands) ** 2 * random.between(0.5, 1.5)
    const noise = wash(random, seconds, attack, t60 * (low / hz) ** fading * random.between(0.7, 1.3), hz * 0.8, hz * 1.3)
    mix(out, noise, (hz / low) ** rise * random.between(0.4, 1.4))
  }
  return out
}

/** A tone whose pitch is bent by a faster one: bells and knocks of digital machines. `index` falls with the sound. Source: Chowning (1973). */
export function bentTone(seconds: number, hz: number, ratio: number, index: number, t60: number, indexT60: number): Float32Array {
  return fill(seconds, t => Math.sin(2 * Math.PI * hz * t + index * decay(t, indexT60) * Math.sin(2 * Math.PI * hz * ratio * t)) * decay(t, t60))
}

/** Ends a sound at once, after a while: what a gate does. In place. */
export function gate(samples: Float32Array, seconds: number): Float32Array {
  const from = Math.round(seconds * SYNTH_RATE)
  const fade = Math.round(0.012 * SYNTH_RATE)
  for (let i = from; i < samples.length; i++) samples[i]! *= Math.max(0, 1 - (i - from) / fade)
  return samples
}

export { addModes, decay, fill, filter, mix, noiseBurst, silence, SYNTH_RATE, type Mode, type Random }
