import { dry, grains, jingles, ridges } from './metals'
import { addModes, bentTone, chance, filter, mix, modesAt, noiseBurst, silence, spread, touch, type Maker } from './parts'


export const rarerShakers: readonly Maker[] = [
  // Beads in a gourd, jerked: one short rattle, or there and back.
  (random) => {
    const seconds = spread(random, 0.03, 0.12)
    const hz = spread(random, 2500, 8500)
    const jerk = () => grains(random, seconds, 15 + Math.floor(random.between(0, 60)), hz, random.between(0.6, 2), part => (1 - part) ** 1.5)
    const out = silence(seconds * 3.5)
    const again = random.between(1, 2.3) * seconds
    mix(out, jerk(), 1)
    return chance(random, 0.5) ? mix(out, jerk(), random.between(0.3, 1.2), again) : out
  },
  // A frame with jingles that is struck: the knock of the wood or the skin before them.
  (random) => {
    const t60 = spread(random, 0.12, 0.6)
    const out = jingles(random, 6 + Math.floor(random.between(0, 14)), spread(random, 0.003, 0.04), t60)
    mix(out, addModes(silence(0.12), modesAt(random, spread(random, 180, 900), [1, 1.6, 2.3], spread(random, 0.03, 0.1), 0.8, 0.4)), random.between(0, 0.6))
    return touch(random, out, random.between(0.1, 1), 1000, 6000)
  },
]

export const rarerMetals: readonly Maker[] = [
  // Of a digital machine: two tones that bend each other.
  (random) => {
    const hz = spread(random, 350, 2600)
    const t60 = spread(random, 0.15, 2)
    return touch(random, bentTone(Math.min(2.5, t60), hz, random.between(1.2, 4.2), random.between(0.5, 5), t60, t60 * random.between(0.2, 1)), random.between(0, 0.3), 2500, 8000)
  },
  // A bell that is held or struck with wood: a dull knock, two or three tones.
  (random) => {
    const hz = spread(random, 400, 1400)
    const t60 = spread(random, 0.06, 0.35)
    const out = addModes(silence(t60 * 1.3), modesAt(random, hz, [1, random.between(1.35, 1.65), random.between(2.1, 2.8), random.between(3, 4), random.between(4.5, 6)], t60, random.between(0.2, 1.2), random.between(0.1, 0.6)))
    mix(out, noiseBurst(random, 0.05, spread(random, 0.008, 0.03), 'band', spread(random, 900, 4500), random.between(0.5, 1.5)), random.between(0.2, 1.4))
    return out
  },
]

export const rarerWoods: readonly Maker[] = [
  // A notched gourd, scraped: teeth that run together, to and fro.
  (random) => {
    const seconds = spread(random, 0.06, 0.9)
    const hz = spread(random, 1200, 6500)
    const q = random.between(0.5, 3)
    const gap = spread(random, 0.003, 0.012)
    const shape = random.between(0.2, 0.9)
    const swell = (part: number) => part < shape ? 0.25 + 0.75 * part / shape : (1 - part) / (1 - shape)
    return ridges(random, seconds, gap, 0.25, () => noiseBurst(random, 0.015, spread(random, 0.003, 0.01), 'band', hz * random.between(0.8, 1.25), q), part => swell(part) * random.between(0.5, 1), 0.04)
  },
  // A log with slits: low and full, it sings a little.
  (random) => {
    const hz = spread(random, 180, 700)
    const t60 = spread(random, 0.12, 0.6)
    const out = addModes(silence(t60 * 1.2), modesAt(random, hz, [1, random.between(2.2, 3.2), random.between(4.2, 6)], t60, random.between(1, 2.4), random.between(1, 3)))
    return dry(random, touch(random, out, random.between(0.2, 1.2), 900, 4000), hz)
  },
  // Shells of hard wood clapped together by the fingers: a bright click.
  (random) => {
    const hz = spread(random, 1500, 4500)
    const t60 = spread(random, 0.01, 0.05)
    const knock = () => mix(addModes(silence(0.12), modesAt(random, hz, [0.5, 1, 1.3, 1.9, 2.6, 3.4], t60, random.between(-0.3, 0.4), 0.2)), noiseBurst(random, 0.05, spread(random, 0.005, 0.02), 'high', spread(random, 2000, 6000)), random.between(0.2, 1.5))
    const out = silence(0.2)
    mix(out, knock())
    if (chance(random, 0.4)) mix(out, knock(), random.between(0.4, 1), random.between(0.01, 0.05))
    return out
  },
  // Ridges that are scraped fast, with hardly anything but their top.
  (random) => {
    const seconds = spread(random, 0.08, 0.6)
    const hz = spread(random, 4000, 9000)
    const gap = spread(random, 0.004, 0.018)
    const out = ridges(random, seconds, gap, 0.1, () => noiseBurst(random, 0.02, spread(random, 0.004, 0.015), 'band', hz * random.between(0.9, 1.1), random.between(0.4, 1.5)), () => random.between(0.6, 1))
    return filter(out, 'high', spread(random, 800, 3000))
  },
]

export const rarerOthers: readonly Maker[] = [
  // A bell-like tone of two that bend each other, long, or a chord of it.
  (random) => {
    const hz = spread(random, 90, 500)
    const seconds = spread(random, 0.5, 2)
    const attack = spread(random, 0.02, 0.3)
    const out = bentTone(seconds, hz, random.pick([1, 2, 3]), random.between(0.5, 4), seconds * 4, seconds * 3)
    for (const step of random.pick([[], [4, 7], [3, 7]])) mix(out, bentTone(seconds, hz * 2 ** (step / 12), 1, random.between(0.5, 3), seconds * 4, seconds * 3))
    for (let i = 0; i < out.length; i++) out[i]! *= Math.min(1, i / 48_000 / attack, (out.length - i) / 4800)
    return out
  },
]
