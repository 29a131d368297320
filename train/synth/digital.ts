import { addModes, bentTone, chance, decay, fallingTone, fill, filter, manyModes, mix, modesAt, noiseBurst, silence, spread, squares, touch, type Maker, type Random } from './parts'

/** As early samplers kept it: few bits, and each value held for a while. In place. */
function coarse(random: Random, samples: Float32Array): Float32Array {
  const steps = 2 ** random.pick([5, 6, 7, 8, 11])
  const held = random.pick([1, 1, 2, 2, 3, 4])
  const peak = samples.reduce((high, value) => Math.max(high, Math.abs(value)), 1e-9)
  for (let i = 0; i < samples.length; i++) samples[i] = i % held === 0 ? Math.round(samples[i]! / peak * steps) / steps : samples[i - 1]!
  return samples
}

/** A tone bent by one that is bent itself: noise with a colour, for plates. */
function bentTwice(random: Random, seconds: number, t60: number): Float32Array {
  const hz = spread(random, 1500, 5000)
  const [inner, outer] = [hz * random.between(1.2, 1.8), hz * random.between(0.2, 0.6)]
  const [deep, deeper] = [random.between(3, 12), random.between(2, 8)]
  return fill(seconds, t => Math.sin(2 * Math.PI * hz * t + deep * Math.sin(2 * Math.PI * inner * t + deeper * Math.sin(2 * Math.PI * outer * t))) * decay(t, t60))
}

export const digitalKicks: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.15, 0.7)
    const hz = spread(random, 45, 85)
    const out = fallingTone(t60, hz * spread(random, 1.3, 5), hz, spread(random, 0.01, 0.05), t60)
    return coarse(random, touch(random, out, random.between(0.1, 1), 800, 5000))
  },
]

export const digitalSnares: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.15, 0.5)
    const out = addModes(silence(t60 * 1.2), modesAt(random, spread(random, 150, 240), [1, 1.5, 1.9, 2.6], t60 * random.between(0.4, 0.9), 0.7, 0.5))
    mix(out, noiseBurst(random, t60 * 1.2, t60, random.pick(['band', 'high']), spread(random, 1800, 5000), random.between(0.4, 0.9)), random.between(1, 5))
    return coarse(random, out)
  },
  (random) => {
    const t60 = spread(random, 0.15, 0.4)
    const out = bentTone(t60 * 1.5, spread(random, 150, 250), random.between(1.3, 2.7), random.between(2, 8), t60, t60 * random.between(0.2, 0.8))
    return mix(out, noiseBurst(random, t60 * 1.5, t60, random.pick(['band', 'high']), spread(random, 1500, 6000), 0.6), random.between(0.5, 2.5))
  },
]

export const digitalRims: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.03, 0.11)
    const out = addModes(silence(0.18), modesAt(random, spread(random, 380, 950), [1, 1.5, 2.1, 3, 4.2, 5.8], t60, random.between(-0.3, 0.5), 0.2))
    mix(out, noiseBurst(random, 0.06, spread(random, 0.01, 0.05), 'high', spread(random, 1500, 4000)), random.between(0.1, 1))
    return chance(random, 0.5) ? coarse(random, out) : out
  },
]

export const digitalClaps: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.1, 0.3)
    const out = silence(t60 + 0.06)
    const hz = spread(random, 900, 2000)
    for (let hand = 0; hand < 3 + Math.floor(random.between(0, 3)); hand++) mix(out, noiseBurst(random, 0.04, 0.03, 'band', hz, random.between(1, 2)), random.between(0.5, 1), hand * random.between(0.007, 0.013))
    return coarse(random, mix(out, noiseBurst(random, t60, t60, 'band', hz * 1.2, 0.8), random.between(0.4, 1), 0.02))
  },
]

export const digitalToms: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.3, 1.1)
    const hz = spread(random, 75, 220)
    return coarse(random, touch(random, fallingTone(t60, hz * random.between(1.1, 2), hz, spread(random, 0.02, 0.1), t60), random.between(0.05, 0.7), 800, 5000))
  },
  (random) => {
    const t60 = spread(random, 0.4, 1.2)
    const hz = spread(random, 70, 210)
    return mix(bentTone(t60, hz, random.pick([0.7, 1.4, 1.6]) * random.between(0.95, 1.05), random.between(0.5, 3), t60, t60 * random.between(0.1, 0.4)), fallingTone(t60, hz * 1.5, hz, 0.03, t60), random.between(0.2, 1))
  },
]

export const digitalClosedHats: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.04, 0.22)
    const out = chance(random, 0.5) ? bentTwice(random, t60 * 1.2, t60) : mix(squares(random, 6, 250, 1800, t60 * 1.2, t60), noiseBurst(random, t60, t60, 'high', 5000), random.between(0.3, 2))
    filter(out, 'high', spread(random, 3000, 8000))
    return chance(random, 0.5) ? coarse(random, out) : out
  },
  // Struck plates without a wash: as many tones as they have, gone at once.
  (random) => {
    const t60 = spread(random, 0.04, 0.2)
    return filter(addModes(silence(t60 * 1.2), manyModes(random, 40 + Math.floor(random.between(0, 80)), spread(random, 700, 2500), 16_000, t60, random.between(-0.1, 0.2))), 'high', spread(random, 400, 4000))
  },
]

export const digitalOpenHats: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.45, 1.8)
    const seconds = Math.min(2, t60)
    const out = chance(random, 0.5) ? bentTwice(random, seconds, t60) : mix(squares(random, 6, 250, 1800, seconds, t60), noiseBurst(random, seconds, t60, 'high', 5000), random.between(0.3, 2))
    filter(out, 'high', spread(random, 3000, 8000))
    return chance(random, 0.5) ? coarse(random, out) : out
  },
]

export const digitalCymbals: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 1, 6)
    const seconds = Math.min(2.5, t60)
    const out = filter(chance(random, 0.5) ? bentTwice(random, seconds, t60) : noiseBurst(random, seconds, t60, 'high', spread(random, 1500, 4500)), 'high', spread(random, 500, 2500))
    return chance(random, 0.6) ? coarse(random, out) : out
  },
  // Tones of bronze alone, from low to high, with a stick.
  (random) => {
    const t60 = spread(random, 0.9, 7)
    const out = addModes(silence(Math.min(3, t60)), manyModes(random, 60 + Math.floor(random.between(0, 70)), spread(random, 250, 600), spread(random, 9000, 15_000), t60, random.between(0.05, 0.35)))
    addModes(out, modesAt(random, spread(random, 2200, 5500), [1, 1.3, 1.7], spread(random, 0.3, 1.2), 0.3, 0.3), random.between(0, 1))
    return touch(random, out, random.between(0.1, 0.8), 3000, 8000)
  },
]

export const digitalMetals: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.15, 0.8)
    const out = addModes(silence(t60), modesAt(random, spread(random, 420, 900), [1, 1.48, 2.1, 2.9, 3.6, 4.7], t60, random.between(0, 0.7), random.between(0.1, 0.5)))
    return coarse(random, touch(random, out, random.between(0.05, 0.6), 1500, 6000))
  },
]

export const digitalWoods: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.04, 0.18)
    const out = addModes(silence(t60 * 1.3), modesAt(random, spread(random, 500, 2800), [1, random.between(1.4, 2.8), random.between(2.8, 4)], t60, random.between(0.6, 2), random.between(0.3, 1.2)))
    return coarse(random, touch(random, out, random.between(0, 0.7), 1500, 7000))
  },
]
