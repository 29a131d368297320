import { drive } from '../../demo/synth/dsp'
import { addModes, chance, decay, fallingTone, fill, filter, mix, modesAt, noiseBurst, silence, soften, spread, touch, wash, type Maker, type Random } from './parts'

/** Modes of an ideal round membrane, over its lowest. Source: Rossing, "Science of Percussion Instruments" (from memory). */
const MEMBRANE = [1, 1.594, 2.136, 2.296, 2.653, 2.918, 3.156, 3.501]
/** Of a drum with air behind its skin: drawn towards harmony. */
const KETTLE = [1, 1.5, 1.98, 2.44, 2.91]

/** A struck skin: its modes, drawn towards harmony where there is air behind it; the higher ones weaker by `tilt`. */
export function skin(random: Random, hz: number, t60: number, tilt: number): Float32Array {
  const out = silence(Math.min(2.5, t60 * 1.1))
  return addModes(out, modesAt(random, hz, chance(random, 0.7) ? MEMBRANE : KETTLE, t60, tilt, random.between(0.3, 1.2)))
}

export const kicks: readonly Maker[] = [
  // Of a machine: a falling tone, with or without a click, soft or driven hard.
  (random) => {
    const end = spread(random, 36, 75)
    const t60 = spread(random, 0.08, 1.6)
    const out = fallingTone(Math.min(2.2, t60), end * spread(random, 1.5, 12), end, spread(random, 0.006, 0.06), t60, chance(random, 0.3) ? random.between(0, 1) : 0)
    if (chance(random, 0.7)) touch(random, out, random.between(0.05, 0.6), 1500, 7000)
    return chance(random, 0.4) ? drive(out, spread(random, 1.5, 12)) : out
  },
  // Of skin and wood: low modes, the slap of the beater, some of the room and the shell.
  (random) => {
    const hz = spread(random, 42, 90)
    const t60 = spread(random, 0.08, 0.7)
    const out = skin(random, hz, t60, random.between(0.6, 2.2))
    mix(out, fallingTone(out.length / 48_000, hz * spread(random, 1.2, 3), hz, spread(random, 0.01, 0.05), t60), random.between(0.3, 1.2))
    touch(random, out, random.between(0.1, 2), 700, 9000)
    if (chance(random, 0.6)) mix(out, wash(random, out.length / 48_000, 0, spread(random, 0.03, 0.2), 100, spread(random, 400, 3000)), random.between(0.05, 0.5))
    return out
  },
]

export const snares: readonly Maker[] = [
  // Skin, wires beneath it, and the stick.
  (random) => {
    const hz = spread(random, 85, 340)
    const t60 = spread(random, 0.08, 0.6)
    const out = silence(t60 * 1.3)
    addModes(out, modesAt(random, hz, [1, 1.59, 2.14, 2.3, 2.65, 2.92], t60 * random.between(0.3, 1.1), random.between(0.6, 1.8), random.between(0.3, 1)), random.between(0.3, 2))
    mix(out, wash(random, t60 * 1.3, random.between(0, 0.006), t60, spread(random, 150, 2000), spread(random, 3000, 16_000)), random.between(0.3, 1.8))
    return touch(random, out, random.between(0.1, 1.2), 1500, 8000)
  },
  // Of a machine: one or two falling tones and noise.
  (random) => {
    const hz = spread(random, 95, 300)
    const t60 = spread(random, 0.08, 0.5)
    const out = fallingTone(t60 * 1.2, hz * spread(random, 1, 2.2), hz, spread(random, 0.005, 0.04), t60 * random.between(0.3, 1))
    if (chance(random, 0.6)) mix(out, fallingTone(t60, hz * 1.8, hz * 1.7, 0.01, t60 * 0.5), random.between(0.2, 0.7))
    mix(out, wash(random, t60 * 1.2, 0, t60, spread(random, 300, 3500), spread(random, 6000, 16_000)), random.between(0.5, 2.2))
    return chance(random, 0.3) ? drive(out, spread(random, 1.2, 5)) : out
  },
  // Brushed or very short, mostly noise.
  (random) => {
    const t60 = spread(random, 0.06, 0.4)
    const out = wash(random, t60 * 1.3, random.between(0, 0.02), t60, spread(random, 150, 900), spread(random, 4000, 12_000))
    return mix(out, skin(random, spread(random, 150, 300), t60 * 0.5, 1.5), random.between(0.05, 0.5))
  },
]

export const rims: readonly Maker[] = [
  // The stick laid across the skin and struck on the rim: a dry knock.
  (random) => {
    const hz = spread(random, 350, 1100)
    const t60 = spread(random, 0.025, 0.14)
    const out = addModes(silence(t60 * 1.5), modesAt(random, hz, [1, random.between(1.6, 2.4), random.between(2.7, 4), random.between(4.2, 6)], t60, random.between(0, 0.8), random.between(0.3, 1)))
    if (chance(random, 0.5)) mix(out, skin(random, spread(random, 150, 260), t60, 1), random.between(0.05, 0.35))
    return touch(random, out, random.between(0.2, 2.5), 600, 8000)
  },
  // The same with the drum and its wires answering.
  (random) => {
    const hz = spread(random, 350, 1500)
    const t60 = spread(random, 0.06, 0.25)
    const out = addModes(silence(t60 * 1.3), modesAt(random, hz, [1, random.between(1.5, 2.4), random.between(2.7, 4), random.between(4.2, 6)], t60 * random.between(0.4, 1), random.between(0, 0.8), random.between(0.3, 1)))
    mix(out, skin(random, spread(random, 150, 280), t60, 1.2), random.between(0.1, 0.6))
    mix(out, wash(random, t60, 0, t60 * random.between(0.3, 1), spread(random, 300, 2500), spread(random, 5000, 16_000)), random.between(0.1, 1.3))
    return touch(random, out, random.between(0.3, 1.8), 1500, 8000)
  },
  // Of a machine: two short tones and a click.
  (random) => {
    const hz = spread(random, 400, 1900)
    const t60 = spread(random, 0.02, 0.08)
    const out = addModes(silence(t60 * 1.6), [{ hz, level: 1, t60 }, { hz: hz * random.between(1.5, 4.2), level: random.between(0.3, 1.2), t60: t60 * random.between(0.4, 1) }])
    filter(out, 'high', spread(random, 100, 500))
    return drive(touch(random, out, random.between(0.2, 1), 2500, 9000), spread(random, 1, 6))
  },
]

export const toms: readonly Maker[] = [
  (random) => {
    const hz = spread(random, 52, 250)
    const t60 = spread(random, 0.25, 1.8) * (120 / hz) ** 0.3
    const out = skin(random, hz, t60, random.between(0.3, 1.9))
    mix(out, fallingTone(out.length / 48_000, hz * spread(random, 1, 1.7), hz, spread(random, 0.02, 0.1), t60), random.between(0.3, 1.2))
    if (chance(random, 0.75)) mix(out, wash(random, out.length / 48_000, random.between(0, 0.004), spread(random, 0.05, 0.6), spread(random, 200, 1500), spread(random, 3000, 12_000)), spread(random, 0.02, 0.6))
    return touch(random, out, random.between(0.05, 2.2), 600, 9000)
  },
  // Of a machine: a tone that falls a little, some noise with it.
  (random) => {
    const hz = spread(random, 70, 260)
    const t60 = spread(random, 0.2, 1.2)
    const out = fallingTone(t60, hz * spread(random, 1.1, 3), hz, spread(random, 0.02, 0.15), t60, chance(random, 0.3) ? random.between(0, 0.5) : 0)
    if (chance(random, 0.5)) mix(out, wash(random, t60, 0, t60 * 0.5, 200, spread(random, 1000, 6000)), random.between(0.05, 0.3))
    return touch(random, out, random.between(0, 0.3), 1000, 5000)
  },
]

export const hands: readonly Maker[] = [
  // Open stroke of a small tuned drum.
  (random) => {
    const hz = spread(random, 160, 620)
    const t60 = spread(random, 0.08, 0.7) * (250 / hz) ** 0.4
    const out = skin(random, hz, t60, random.between(0.6, 2))
    mix(out, fallingTone(out.length / 48_000, hz * random.between(1, 1.12), hz, 0.02, t60), random.between(0.2, 1.5))
    if (chance(random, 0.5)) mix(out, wash(random, out.length / 48_000, random.between(0, 0.008), t60 * random.between(0.3, 1), spread(random, 300, 1500), spread(random, 3000, 9000)), spread(random, 0.03, 0.5))
    touch(random, out, random.between(0.1, 1.3), 500, 8000)
    return chance(random, 0.5) ? soften(out, spread(random, 0.001, 0.008)) : out
  },
  // A slap: short, with much of the upper modes and of the palm.
  (random) => {
    const hz = spread(random, 220, 700)
    const t60 = spread(random, 0.05, 0.25)
    const out = skin(random, hz, t60, random.between(0.1, 0.9))
    mix(touch(random, out, random.between(0.4, 1.4), 1200, 4500), wash(random, t60, 0, t60 * 0.5, 600, spread(random, 4000, 9000)), random.between(0.05, 0.7))
    return chance(random, 0.3) ? soften(out, spread(random, 0.001, 0.006)) : out
  },
  // With a shell of metal: it rings.
  (random) => {
    const hz = spread(random, 200, 550)
    const t60 = spread(random, 0.2, 0.9)
    const out = skin(random, hz, t60, random.between(0.2, 1))
    mix(out, addModes(silence(t60), modesAt(random, hz * random.between(1.5, 3), [1, 1.3, 1.7, 2.2, 2.9, 3.7], t60 * 0.7, 0.4, 0.3)), random.between(0.1, 0.5))
    return touch(random, out, random.between(0.2, 0.9), 1000, 5000)
  },
  // Muted, or the low stroke of a large one.
  (random) => {
    const low = chance(random, 0.25)
    const hz = low ? spread(random, 65, 150) : spread(random, 180, 420)
    const t60 = low ? spread(random, 0.15, 0.7) : spread(random, 0.03, 0.14)
    const out = skin(random, hz, t60, random.between(0.6, 1.6))
    if (chance(random, 0.5)) mix(out, wash(random, out.length / 48_000, random.between(0, 0.004), t60 * random.between(0.3, 1), 300, spread(random, 2000, 7000)), spread(random, 0.03, 0.6))
    return touch(random, out, random.between(0.2, 1.2), 400, 5000)
  },
]

export const claps: readonly Maker[] = [
  // Several hands, nearly together, and the room.
  (random) => {
    const hz = spread(random, 800, 2400)
    const q = random.between(0.6, 2.2)
    const t60 = spread(random, 0.08, 0.6)
    const out = silence(t60 + 0.08)
    const bursts = 2 + Math.floor(random.between(0, 4))
    let at = 0
    for (let hand = 0; hand < bursts; hand++) {
      mix(out, noiseBurst(random, 0.05, spread(random, 0.008, 0.025), 'band', hz * random.between(0.85, 1.2), q), random.between(0.6, 1.6), at)
      at += random.between(0.006, 0.016)
    }
    mix(out, filter(noiseBurst(random, t60, t60, 'band', hz * random.between(0.9, 1.5), random.between(0.4, 1.2)), 'high', 400), random.between(0.3, 1.1), at - 0.004)
    return chance(random, 0.3) ? drive(out, spread(random, 1, 4)) : out
  },
  // A crowd of hands, spread wider.
  (random) => {
    const out = silence(random.between(0.15, 0.4))
    const hands = 4 + Math.floor(random.between(0, 12))
    for (let hand = 0; hand < hands; hand++) {
      mix(out, noiseBurst(random, 0.06, spread(random, 0.01, 0.05), 'band', spread(random, 700, 3000), random.between(0.8, 3)), random.between(0.3, 1), Math.abs(random.between(-0.03, 0.03)))
    }
    return mix(out, wash(random, out.length / 48_000, 0.01, spread(random, 0.1, 0.4), 500, 6000), random.between(0.05, 0.4))
  },
]

export const others: readonly Maker[] = [
  // A tone that goes on: harmonics with an attack and an end of their own.
  (random) => {
    const seconds = spread(random, 0.4, 2)
    const hz = spread(random, 55, 900)
    const attack = spread(random, 0.004, 0.2)
    const tilt = random.between(0.6, 2)
    const out = fill(seconds, (t) => {
      let sum = 0
      for (let n = 1; n <= 10; n++) sum += Math.sin(2 * Math.PI * hz * n * t) / n ** tilt
      return sum * Math.min(1, t / attack) * Math.min(1, (seconds - t) / 0.1)
    })
    return filter(out, 'low', spread(random, 800, 9000))
  },
  // A plain tone that holds its level, as test tones and low basses do, or a chord of it: sines, driven or not.
  (random) => {
    const seconds = spread(random, 0.4, 3)
    const hz = spread(random, 30, 2000)
    const steps = random.pick([[0], [0], [0, 4, 7], [0, 3, 7, 10]])
    const attack = spread(random, 0.001, 0.05)
    const fallsDb = random.between(0, 6)
    const out = fill(seconds, (t) => {
      let sum = 0
      for (const step of steps) sum += Math.sin(2 * Math.PI * hz * 2 ** (step / 12) * t) / steps.length
      return sum * 10 ** (-fallsDb * t / seconds / 20) * Math.min(1, t / attack, (seconds - t) / 0.05)
    })
    return chance(random, 0.5) ? out : drive(out, random.between(0.5, 3))
  },
  // Noise that swells, sinks away slowly, or goes on as it is.
  (random) => {
    const seconds = spread(random, 0.5, 2.5)
    const levelAt = random.pick([
      (part: number) => part ** 2,
      (part: number) => Math.sin(Math.PI * part) ** 2,
      (part: number) => Math.min(1, part / 0.01, (1 - part) / 0.02),
    ])
    const out = fill(seconds, t => random.noise() * levelAt(t / seconds))
    return filter(filter(out, 'low', spread(random, 1000, 12_000)), 'high', spread(random, 60, 800))
  },
  // A tone that sweeps up or down.
  (random) => {
    const seconds = spread(random, 0.2, 1.5)
    const [from, to] = [spread(random, 100, 3000), spread(random, 100, 3000)]
    const wave = random.pick([(part: number) => part * 2 - 1, (part: number) => Math.sin(2 * Math.PI * part)])
    let phase = 0
    return fill(seconds, (t) => {
      phase += from * (to / from) ** (t / seconds) / 48_000
      return wave(phase % 1) * Math.min(1, t / 0.01) * decay(t, seconds * 3)
    })
  },
]
