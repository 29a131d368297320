import { addModes, bronze, chance, filter, gate, manyModes, mix, noiseBurst, silence, soften, spread, squares, touch, type Maker } from './parts'


export const rarerClosedHats: readonly Maker[] = [
  // Bronze, pressed together: the top comes at once and is gone at once.
  (random) => {
    const t60 = spread(random, 0.05, 0.35)
    const out = bronze(random, t60 * 1.3, spread(random, 350, 3000), spread(random, 9000, 17_000), t60 * random.between(1, 2), random.between(0, 0.004), random.between(0, 0.25))
    if (chance(random, 0.6)) mix(out, addModes(silence(t60 * 1.3), manyModes(random, 60, spread(random, 500, 3000), 14_000, t60, random.between(0, 0.2))), random.between(0.2, 1.5))
    touch(random, out, random.between(0, 0.8), 250, 3000)
    return chance(random, 0.6) ? filter(out, 'high', spread(random, 200, 5000)) : out
  },
  // Of a machine: noise alone, very short.
  (random) => {
    const t60 = spread(random, 0.02, 0.16)
    const out = noiseBurst(random, t60 * 1.3, t60, random.pick(['high', 'high', 'band']), spread(random, 4500, 10_000), random.between(0.5, 1.5))
    return chance(random, 0.4) ? mix(out, filter(squares(random, 5, 300, 1500, t60, t60), 'high', 6000), random.between(0.1, 0.8)) : out
  },
  // By the foot: the plates meet, and what the stand and the air do is as loud as they are.
  (random) => {
    const t60 = spread(random, 0.08, 0.4)
    const out = bronze(random, t60 * 1.3, spread(random, 300, 1500), spread(random, 7000, 14_000), t60 * 1.5, random.between(0, 0.02), random.between(0, 0.3))
    mix(out, noiseBurst(random, 0.12, spread(random, 0.03, 0.12), 'band', spread(random, 180, 500), random.between(0.4, 1.2)), random.between(0.3, 2.5))
    return soften(out, spread(random, 0.002, 0.02))
  },
]

export const rarerOpenHats: readonly Maker[] = [
  // Bronze that sizzles: the plates touch again and again while they ring.
  (random) => {
    const t60 = spread(random, 0.4, 3)
    const seconds = Math.min(3, t60)
    const out = bronze(random, seconds, spread(random, 350, 3500), spread(random, 10_000, 17_000), t60 * random.between(1, 1.6), random.between(0, 0.01), random.between(0, 0.2))
    mix(out, addModes(silence(seconds), manyModes(random, 70, spread(random, 400, 3000), 14_000, t60, random.between(0, 0.25))), random.between(0.1, 1.2))
    const sizzle = random.between(0, 0.6)
    let level = 1
    for (let i = 0; i < out.length; i++) {
      if (i % 480 === 0) level = 1 - sizzle * random.between(0, 1)
      out[i]! *= level
    }
    touch(random, out, random.between(0, 0.6), 300, 3000)
    return chance(random, 0.6) ? filter(out, 'high', spread(random, 250, 5000)) : out
  },
  // Of a machine: squares or noise that ring on, or are cut off as the foot comes down.
  (random) => {
    const t60 = spread(random, 0.3, 1.5)
    const out = noiseBurst(random, t60, t60, random.pick(['high', 'band']), spread(random, 4500, 10_000), random.between(0.5, 1.5))
    if (chance(random, 0.6)) mix(out, filter(squares(random, 6, 200, 1500, t60, t60), 'high', spread(random, 4000, 8000)), random.between(0.2, 1.5))
    return chance(random, 0.3) ? gate(out, t60 * random.between(0.4, 0.8)) : out
  },
  // Heavy plates that hardly touch: they ring like a cymbal, and shorter, from the middle upward.
  (random) => {
    const t60 = spread(random, 0.6, 2.6)
    const seconds = Math.min(3, t60)
    const out = addModes(silence(seconds), manyModes(random, 90, spread(random, 280, 800), spread(random, 9000, 14_000), t60, random.between(0, 0.25)))
    mix(out, bronze(random, seconds, spread(random, 350, 1200), spread(random, 8000, 15_000), t60 * 1.3, random.between(0, 0.008), random.between(0, 0.3)), random.between(0.1, 0.8))
    return touch(random, out, random.between(0.1, 1), 400, 5000)
  },
]

export const rarerCymbals: readonly Maker[] = [
  // Bronze that is struck hard: it opens upward, and the top dies first.
  (random) => {
    const t60 = spread(random, 1, 8)
    const seconds = Math.min(3, t60)
    const low = spread(random, 200, 900)
    const out = bronze(random, seconds, low, spread(random, 9000, 17_000), t60 * 1.5, spread(random, 0.005, 0.12), random.between(0.15, 0.5))
    mix(out, addModes(silence(seconds), manyModes(random, 80, low, 9000, t60, random.between(0.2, 0.5))), random.between(0.1, 1.2))
    return touch(random, filter(out, 'high', low * 0.7), random.between(0, 0.5), 1500, 7000)
  },
  // Small and thin: a splash, gone within a second.
  (random) => {
    const t60 = spread(random, 0.4, 1.6)
    const low = spread(random, 500, 1800)
    const out = bronze(random, t60, low, 15_000, t60 * 1.2, spread(random, 0.003, 0.03), random.between(0, 0.3))
    mix(out, addModes(silence(t60), manyModes(random, 60, low, 12_000, t60, 0.2)), random.between(0.1, 1))
    return touch(random, filter(out, 'high', low * 0.6), random.between(0, 0.5), 1500, 7000)
  },
  // A ride on its shoulder: clear strokes over a wash that hardly sinks.
  (random) => {
    const t60 = spread(random, 1.5, 8)
    const seconds = 3
    const low = spread(random, 220, 600)
    const out = bronze(random, seconds, low, spread(random, 6000, 14_000), t60 * 1.5, spread(random, 0.005, 0.05), random.between(0.1, 0.4))
    addModes(out, manyModes(random, 40, low, 7000, t60, random.between(0.1, 0.4)), random.between(0.5, 3))
    return touch(random, out, random.between(0.3, 3), 2500, 9000)
  },
]
