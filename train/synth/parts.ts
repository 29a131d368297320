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

export { addModes, decay, fill, filter, mix, noiseBurst, silence, SYNTH_RATE, type Mode, type Random }
