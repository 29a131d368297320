import { drive } from '../../demo/synth/dsp'
import { addModes, chance, fallingTone, fill, filter, manyModes, mix, modesAt, noiseBurst, silence, soften, spread, squares, touch, wash, type Maker, type Random } from './parts'

/** Two thin plates, or what machines make for them. `body`: how often heavy bronze sounds below them. */
function plates(random: Random, t60: number, body: number): Float32Array {
  const seconds = Math.min(3, t60 * 1.2)
  const choice = random.between(0, 1)
  const low = spread(random, 1500, 9000)
  let out: Float32Array
  if (choice < 0.35) out = filter(squares(random, 4 + Math.floor(random.between(0, 4)), 200, 1200, seconds, t60), 'high', low, random.between(0.5, 1.4))
  else if (choice < 0.65) out = wash(random, seconds, random.between(0, 0.006), t60, low, spread(random, 9000, 20_000))
  else out = filter(addModes(silence(seconds), manyModes(random, 40 + Math.floor(random.between(0, 60)), spread(random, 300, 3000), 16_000, t60, random.between(-0.1, 0.3))), 'high', spread(random, 1200, 7000))
  if (chance(random, 0.7)) mix(out, wash(random, seconds, random.between(0, 0.008), t60 * random.between(0.4, 1), spread(random, 2000, 9000), 18_000), random.between(0.1, 1.6))
  if (chance(random, body)) mix(out, addModes(silence(seconds), manyModes(random, 8 + Math.floor(random.between(0, 20)), spread(random, 250, 900), 3000, t60 * random.between(0.2, 0.9), 0.2)), spread(random, 0.05, 1.4))
  if (chance(random, 0.5)) soften(out, spread(random, 0.001, 0.006))
  touch(random, out, random.between(0, 0.7), 300, 9000)
  // Of machines, and of many who mix them: nothing is left below.
  return chance(random, 0.4) ? filter(filter(out, 'high', low), 'high', spread(random, 2500, 8000)) : out
}

export const closedHats: readonly Maker[] = [
  random => plates(random, spread(random, 0.03, 0.33), 0.2),
  // By the foot: softer, a little longer, with the air between the plates.
  (random) => {
    const out = filter(plates(random, spread(random, 0.06, 0.33), 0.2), 'low', spread(random, 5000, 14_000))
    return mix(out, noiseBurst(random, 0.06, spread(random, 0.02, 0.05), 'band', spread(random, 300, 1500)), random.between(0, 0.6))
  },
]

export const openHats: readonly Maker[] = [random => plates(random, spread(random, 0.38, 2.6), 0.6)]

export const cymbals: readonly Maker[] = [
  // Crash and splash: it swells for a moment.
  (random) => {
    const t60 = spread(random, 0.6, 7)
    const seconds = Math.min(3, t60)
    const low = spread(random, 180, 900)
    const out = addModes(silence(seconds), manyModes(random, 90, low, 14_000, t60, random.between(0.1, 0.35)))
    mix(out, wash(random, seconds, spread(random, 0.001, 0.06), t60 * random.between(0.5, 1), spread(random, 800, 5000), spread(random, 9000, 19_000)), random.between(0.3, 1.4))
    return touch(random, filter(out, 'high', low), random.between(0, 0.4), 1500, 6000)
  },
  // Ride: the stick's ping over a low wash.
  (random) => {
    const t60 = spread(random, 0.9, 6)
    const seconds = Math.min(3, t60)
    const out = addModes(silence(seconds), manyModes(random, 60, spread(random, 250, 700), 12_000, t60, 0.25))
    const ping = spread(random, 1800, 4800)
    addModes(out, modesAt(random, ping, [1, random.between(1.3, 1.6), random.between(1.9, 2.4), random.between(2.6, 3)], spread(random, 0.1, 0.6), 0.5, 0.4), random.between(0.1, 0.6))
    mix(out, wash(random, seconds, 0, t60 * 0.6, spread(random, 2000, 7000), 17_000), random.between(0.05, 0.5))
    return touch(random, filter(out, 'high', 250), random.between(0.2, 0.8), 3000, 8000)
  },
  // The bell of a ride.
  (random) => {
    const hz = spread(random, 500, 1100)
    const t60 = spread(random, 0.8, 3)
    const out = addModes(silence(Math.min(3, t60)), modesAt(random, hz, [1, 1.5, 2.1, 2.6, 3.2, 4.1, 5.2, 6.6, 7.9], t60, random.between(0.2, 1), 0.15))
    mix(out, wash(random, Math.min(3, t60), 0.01, t60 * 0.7, 2500, 15_000), random.between(0.1, 0.5))
    return touch(random, out, 0.4, 3000, 8000)
  },
  // Of a machine.
  (random) => {
    const t60 = spread(random, 0.9, 3.5)
    const seconds = Math.min(3, t60)
    const out = filter(squares(random, 6, 200, 1000, seconds, t60), 'high', spread(random, 1500, 6000), random.between(0.5, 2))
    return mix(out, wash(random, seconds, 0, t60, spread(random, 2000, 7000), 18_000), random.between(0, 0.9))
  },
  // China: coarse, with strong middles.
  (random) => {
    const t60 = spread(random, 0.5, 2.5)
    const out = addModes(silence(t60), manyModes(random, 80, 250, 8000, t60, 0.15))
    return mix(out, noiseBurst(random, t60, t60 * 0.7, 'band', spread(random, 1500, 4500), 0.6), random.between(0.5, 1.5))
  },
]

/** Pairs of plates that jingle, each a little later than the other. */
export function jingles(random: Random, count: number, spreadSeconds: number, t60: number): Float32Array {
  const out = silence(t60 * 1.3 + spreadSeconds)
  const hz = spread(random, 3500, 7500)
  for (let i = 0; i < count; i++) {
    const one = addModes(silence(t60 * 1.2), manyModes(random, 5, hz, 15_000, t60 * random.between(0.5, 1), 0))
    mix(out, one, random.between(0.3, 1), random.between(0, spreadSeconds))
  }
  return out
}

/** Bursts of noise in a band, thrown over a stretch of time; their level follows `shape`, over the part that has passed. */
export function grains(random: Random, seconds: number, count: number, hz: number, q: number, shape: (part: number) => number): Float32Array {
  const out = silence(seconds)
  for (let grain = 0; grain < count; grain++) {
    const part = random.between(0, 0.92)
    mix(out, noiseBurst(random, 0.012, spread(random, 0.003, 0.012), 'band', hz * random.between(0.75, 1.35), q), random.between(0.2, 1) * shape(part), part * seconds)
  }
  return out
}

/** One tooth after another, `gap` seconds apart, more or less by a part `uneven`; their level may depend on the part that has passed. */
export function ridges(random: Random, seconds: number, gap: number, uneven: number, tooth: () => Float32Array, level: (part: number) => number, tail = 0.03): Float32Array {
  const out = silence(seconds + tail)
  for (let at = 0; at < seconds; at += gap * random.between(1 - uneven, 1 + uneven)) mix(out, tooth(), level(at / seconds), at)
  return out
}

export const shakers: readonly Maker[] = [
  // Grains in a vessel: they gather and scatter.
  (random) => {
    const seconds = spread(random, 0.05, 0.35)
    const peak = random.between(0.1, 0.7)
    return filter(grains(random, seconds, 20 + Math.floor(random.between(0, 120)), spread(random, 3500, 9000), random.between(0.6, 2.5), part => part < peak ? (part / peak) ** 1.5 : ((1 - part) / (1 - peak)) ** 1.5), 'high', spread(random, 1200, 4000))
  },
  // Of a machine: noise with a soft beginning.
  (random) => {
    const t60 = spread(random, 0.03, 0.25)
    return wash(random, t60 * 1.3, spread(random, 0.004, 0.06), t60, spread(random, 2500, 8000), spread(random, 8000, 18_000))
  },
  // With jingles: struck or shaken.
  (random) => {
    const t60 = spread(random, 0.08, 0.5)
    const out = jingles(random, 4 + Math.floor(random.between(0, 10)), spread(random, 0.005, 0.09), t60)
    if (chance(random, 0.6)) mix(out, noiseBurst(random, 0.2, t60 * 0.6, 'high', spread(random, 4000, 8000)), random.between(0.1, 0.8))
    if (chance(random, 0.4)) touch(random, out, random.between(0.1, 0.6), 300, 2500)
    return chance(random, 0.6) ? filter(out, 'high', spread(random, 1500, 5000)) : out
  },
  // Beads drawn over ridges.
  (random) => {
    const seconds = spread(random, 0.06, 0.4)
    const gap = spread(random, 0.003, 0.012)
    return ridges(random, seconds, gap, 0.3, () => noiseBurst(random, 0.012, 0.006, 'band', spread(random, 4500, 9500), 1.2), () => random.between(0.4, 1))
  },
]

export const metals: readonly Maker[] = [
  // Cowbell of sheet metal.
  (random) => {
    const hz = spread(random, 400, 1000)
    const t60 = spread(random, 0.1, 0.9)
    const out = addModes(silence(t60 * 1.1), modesAt(random, hz, [1, random.between(1.4, 1.6), random.between(2, 2.4), random.between(2.8, 3.4), 4.2, 5.1, 6.3], t60, random.between(0.1, 1), random.between(0.05, 0.4)))
    return touch(random, out, random.between(0.05, 0.5), 1500, 5000)
  },
  // Of a machine: two squares.
  (random) => {
    const hz = spread(random, 450, 900)
    const t60 = spread(random, 0.1, 0.8)
    const ratio = random.between(1.42, 1.56)
    const seconds = t60 * 1.1
    const out = fill(seconds, t => ((hz * t) % 1 < 0.5 ? 1 : -1) + ((hz * ratio * t) % 1 < 0.5 ? 1 : -1))
    for (let i = 0; i < out.length; i++) out[i]! *= 0.6 * Math.exp(-i / 48_000 * 6.9 / t60) + 0.4 * Math.exp(-i / 48_000 * 40)
    return filter(out, 'band', hz * random.between(1.2, 2.5), random.between(0.6, 1.8))
  },
  // Two-toned bells on a stick, small bells, tubes.
  (random) => {
    const hz = spread(random, 550, 2600)
    const t60 = spread(random, 0.15, 1.6)
    const out = addModes(silence(Math.min(2.5, t60 * 1.1)), modesAt(random, hz, [1, random.between(1.9, 2.9), random.between(3.5, 5.6)], t60, random.between(0.5, 1.6), random.between(0.2, 0.8)))
    return touch(random, out, random.between(0, 0.4), 2500, 7000)
  },
  // Triangle: few high tones, for long or damped by the hand.
  (random) => {
    const hz = spread(random, 1500, 5200)
    const t60 = chance(random, 0.35) ? spread(random, 0.06, 0.25) : spread(random, 0.6, 4)
    const out = addModes(silence(Math.min(3, t60 * 1.1)), modesAt(random, hz, [1, random.between(1.3, 1.9), random.between(2, 2.8), random.between(3, 4), random.between(4.2, 5.5)], t60, random.between(0, 0.7), 0.1))
    return touch(random, out, random.between(0, 0.3), 5000, 10_000)
  },
  // A ship's bell, a gong, a piece of rail.
  (random) => {
    const hz = spread(random, 110, 800)
    const t60 = spread(random, 0.5, 4)
    const out = addModes(silence(Math.min(3, t60)), modesAt(random, hz, [0.5, 1, 1.2, 1.5, 2, 2.5, 2.66, 3, 4.1, 5.4, 6.7], t60, random.between(0, 0.7), 0.15))
    return touch(random, out, random.between(0, 0.5), 1500, 6000)
  },
  // Small bells, cymbals for the fingers, a high triangle: little below 3 kHz.
  (random) => {
    const hz = spread(random, 2500, 8000)
    const t60 = chance(random, 0.3) ? spread(random, 0.05, 0.2) : spread(random, 0.3, 3)
    const out = addModes(silence(Math.min(3, t60 * 1.1)), modesAt(random, hz, [random.between(0.3, 0.6), 1, random.between(1.2, 1.7), random.between(1.8, 2.6), random.between(2.7, 3.4)], t60, random.between(-0.2, 0.6), 0.1))
    return touch(random, out, random.between(0, 0.5), 5000, 12_000)
  },
  // Struck scrap: many tones at once, dry.
  (random) => {
    const t60 = spread(random, 0.15, 1)
    const out = addModes(silence(t60), manyModes(random, 12 + Math.floor(random.between(0, 14)), spread(random, 300, 1200), 7000, t60, 0.2))
    return drive(touch(random, out, random.between(0.1, 0.6), 2000, 6000), spread(random, 1, 3))
  },
]

/** Without what the stick's weight adds below, mostly. */
export function dry(random: Random, out: Float32Array, hz: number): Float32Array {
  return chance(random, 0.7) ? filter(out, 'high', hz * random.between(0.4, 0.8)) : out
}

export const woods: readonly Maker[] = [
  // Two sticks: one clear tone, short.
  (random) => {
    const hz = spread(random, 1400, 3800)
    const t60 = spread(random, 0.03, 0.18)
    const out = addModes(silence(t60 * 1.4), [{ hz, level: 1, t60 }, { hz: hz * random.between(2.3, 2.9), level: random.between(0, 0.25), t60: t60 * 0.4 }])
    return dry(random, touch(random, out, random.between(0, 0.8), 2000, 9000), hz)
  },
  // A hollow block.
  (random) => {
    const hz = spread(random, 380, 1900)
    const t60 = spread(random, 0.04, 0.22)
    const out = addModes(silence(t60 * 1.4), modesAt(random, hz, [1, random.between(1.5, 2.8), random.between(3, 4.4)], t60, random.between(1, 2.4), random.between(0.6, 1.6)))
    return dry(random, touch(random, out, random.between(0, 1), 1500, 8000), hz)
  },
  // Of a machine: a short tone that falls a little.
  (random) => {
    const hz = spread(random, 500, 2800)
    const t60 = spread(random, 0.03, 0.16)
    return fallingTone(t60 * 1.3, hz * random.between(1, 1.15), hz, 0.01, t60, random.between(0, 0.4))
  },
  // A ridged stick: knock after knock.
  (random) => {
    const seconds = spread(random, 0.07, 0.55)
    const out = silence(seconds + 0.05)
    const hz = spread(random, 900, 4200)
    let gap = spread(random, 0.006, 0.024)
    for (let at = 0; at < seconds; at += gap) {
      mix(out, noiseBurst(random, 0.03, spread(random, 0.006, 0.018), 'band', hz * random.between(0.85, 1.15), random.between(1.5, 5)), random.between(0.5, 1), at)
      gap = Math.max(0.005, gap * random.between(0.92, 1.06))
    }
    return out
  },
  // Castanets, slaps of boards: two knocks close together.
  (random) => {
    const hz = spread(random, 900, 2800)
    const out = silence(0.2)
    const knock = () => addModes(silence(0.1), modesAt(random, hz, [1, 1.4, 2.2, 2.9, 3.8], spread(random, 0.015, 0.05), 0.3, 0.3))
    mix(out, knock())
    return chance(random, 0.5) ? mix(out, knock(), random.between(0.4, 1), random.between(0.012, 0.05)) : out
  },
]
