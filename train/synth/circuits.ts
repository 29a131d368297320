import { drive } from '../../demo/synth/dsp'
import { chance, decay, fill, filter, gate, mix, noiseBurst, spread, SYNTH_RATE, wash, type Maker, type Random } from './parts'

/** How a tone begins higher than it ends: by which part of its pitch, and for how long, in seconds. */
interface Bend {
  readonly by: number
  readonly seconds: number
}

const STRAIGHT: Bend = { by: 0, seconds: 1 }

/** A resonator that a short pulse sets ringing. Source: the bridged-T network, textbook. */
function rung(seconds: number, hz: number, t60: number, { by, seconds: falls }: Bend = STRAIGHT): Float32Array {
  let phase = 0
  return fill(seconds, (t) => {
    phase += 2 * Math.PI * hz * (1 + by * Math.exp(-t / falls)) / SYNTH_RATE
    return Math.sin(phase) * decay(t, t60) * Math.min(1, t / 0.0008)
  })
}

/** A triangle wave from an oscillator that is turned down and off. */
function triangle(seconds: number, hz: number, t60: number, { by, seconds: falls }: Bend): Float32Array {
  let phase = 0
  return fill(seconds, (t) => {
    phase += 2 * Math.PI * hz * (1 + by * Math.exp(-t / falls)) / SYNTH_RATE
    return Math.asin(Math.sin(phase)) * 2 / Math.PI * decay(t, t60)
  })
}

/** Six square waves that share no harmony, the bank of oscillators behind many metallic sounds. */
function squareBank(random: Random, seconds: number): Float32Array {
  const lowest = spread(random, 150, 450)
  const hz = [1, 1.4, 1.8, 2.5, 2.7, 3.9].map(ratio => lowest * ratio * random.between(0.9, 1.1))
  return fill(seconds, t => hz.reduce((sum, f) => sum + ((f * t) % 1 < 0.5 ? 1 : -1), 0) / hz.length)
}

/** In place. */
function shaped(samples: Float32Array, level: (t: number) => number): Float32Array {
  for (let i = 0; i < samples.length; i++) samples[i]! *= level(i / SYNTH_RATE)
  return samples
}

/** Squares through a band and then without what is below it: a plate. */
function circuitPlate(random: Random, t60: number): Float32Array {
  const out = filter(squareBank(random, Math.min(3, t60)), 'band', spread(random, 4500, 11_000), random.between(0.7, 3))
  return shaped(filter(out, 'high', spread(random, 3000, 8000)), t => decay(t, t60))
}

export const circuitKicks: readonly Maker[] = [
  // Rung once: from a short knock to one that booms on for seconds and is cut off at the end of its file.
  (random) => {
    const t60 = spread(random, 0.15, 7)
    const out = rung(Math.min(2.5, t60), spread(random, 34, 70), t60, { by: random.between(0.05, 1.5), seconds: spread(random, 0.004, 0.04) })
    if (chance(random, 0.6)) mix(out, noiseBurst(random, 0.02, 0.012, chance(random, 0.5) ? 'low' : 'high', spread(random, 1500, 5000)), random.between(0.02, 0.4))
    return chance(random, 0.25) ? drive(out, spread(random, 1.5, 10)) : out
  },
  (random) => {
    const t60 = spread(random, 0.25, 1.6)
    const out = triangle(Math.min(2, t60), spread(random, 38, 65), t60, { by: random.between(1.5, 7), seconds: spread(random, 0.01, 0.045) })
    return mix(drive(out, random.between(1, 2.5)), noiseBurst(random, 0.04, spread(random, 0.01, 0.04), 'low', spread(random, 1200, 7000)), random.between(0.05, 0.7))
  },
]

export const circuitSnares: readonly Maker[] = [
  // Two resonators for the two lowest tones of the skin, and noise for the wires.
  (random) => {
    const hz = spread(random, 140, 230)
    const t60 = spread(random, 0.15, 0.55)
    const out = rung(t60 * 1.3, hz, t60 * random.between(0.5, 1.1))
    mix(out, rung(t60, hz * random.between(1.6, 2), t60 * random.between(0.3, 0.9)), random.between(0.2, 1))
    return mix(out, noiseBurst(random, t60 * 1.3, t60 * random.between(0.6, 1.5), 'high', spread(random, 700, 3500)), random.between(0.3, 1.6))
  },
  // Two triangles that fall, and noise both whole and thin.
  (random) => {
    const hz = spread(random, 150, 220)
    const t60 = spread(random, 0.15, 0.4)
    const out = triangle(t60 * 2, hz, t60, { by: random.between(0.3, 1.5), seconds: spread(random, 0.006, 0.025) })
    mix(out, triangle(t60, hz * random.between(1.5, 1.8), t60 * 0.8, { by: random.between(0.3, 1), seconds: 0.01 }), random.between(0.3, 0.9))
    mix(out, noiseBurst(random, t60 * 2, t60 * random.between(1, 2), 'low', spread(random, 4000, 10_000)), random.between(0.3, 1.2))
    return mix(out, noiseBurst(random, t60, t60 * 0.8, 'high', spread(random, 2000, 5000)), random.between(0.2, 1))
  },
  // Noise with a room that a gate shuts.
  (random) => {
    const open = spread(random, 0.1, 0.35)
    const out = wash(random, open + 0.1, 0, spread(random, 0.6, 2), spread(random, 150, 600), spread(random, 5000, 14_000))
    mix(out, rung(open, spread(random, 150, 240), spread(random, 0.1, 0.3)), random.between(0.5, 2))
    mix(out, noiseBurst(random, 0.08, 0.08, 'high', spread(random, 1000, 4000)), random.between(0.3, 1.5))
    return gate(out, open)
  },
]

export const circuitRims: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.02, 0.09)
    const out = rung(0.12, spread(random, 380, 560), t60)
    mix(out, rung(0.1, spread(random, 1400, 2100), t60 * random.between(0.5, 1)), random.between(0.4, 1.6))
    return drive(filter(out, 'high', spread(random, 200, 700)), spread(random, 1, 6))
  },
  // Three triangles and a click.
  (random) => {
    const t60 = spread(random, 0.025, 0.1)
    const out = triangle(0.12, spread(random, 400, 560), t60 * 1.4, STRAIGHT)
    mix(out, triangle(0.1, spread(random, 850, 1200), t60, STRAIGHT), random.between(0.5, 1.5))
    mix(out, triangle(0.1, spread(random, 1450, 1900), t60 * 0.7, STRAIGHT), random.between(0.5, 1.5))
    return mix(out, noiseBurst(random, 0.03, 0.01, 'high', spread(random, 2000, 5000)), random.between(0, 0.6))
  },
]

export const circuitClaps: readonly Maker[] = [
  // Noise whose level saws a few times before it is let go.
  (random) => {
    const tooth = spread(random, 0.007, 0.014)
    const teeth = 2 + Math.floor(random.between(0, 3))
    const t60 = spread(random, 0.1, 0.7)
    const tail = random.between(0.4, 1)
    const level = (t: number) => t < teeth * tooth ? decay(t % tooth, tooth * 2.5) : tail * decay(t - teeth * tooth, t60)
    const noise = fill(teeth * tooth + Math.min(0.8, t60), t => random.noise() * level(t))
    const bright = filter(noise.slice(), 'high', spread(random, 2000, 5000))
    return mix(filter(noise, 'band', spread(random, 800, 2000), random.between(0.8, 2.5)), bright, random.between(0, 0.25))
  },
]

export const circuitToms: readonly Maker[] = [
  (random) => {
    const hz = spread(random, 62, 230)
    const t60 = spread(random, 0.3, 1.8)
    const out = rung(Math.min(2, t60), hz, t60, { by: random.between(0.08, 0.8), seconds: spread(random, 0.015, 0.1) })
    return mix(out, noiseBurst(random, t60 * 0.5, t60 * random.between(0.2, 0.6), 'low', spread(random, 400, 2500)), random.between(0.03, 0.5))
  },
  (random) => {
    const t60 = spread(random, 0.3, 1.6)
    const out = triangle(Math.min(2, t60), spread(random, 65, 210), t60, { by: random.between(0.3, 1.5), seconds: spread(random, 0.02, 0.12) })
    return mix(out, noiseBurst(random, 0.15, spread(random, 0.04, 0.15), 'low', spread(random, 2000, 7000)), random.between(0.05, 0.6))
  },
]

export const circuitHands: readonly Maker[] = [
  // The resonator of a tom, higher, shorter and without the noise.
  (random) => {
    const t60 = spread(random, 0.1, 0.6)
    const out = rung(t60, spread(random, 165, 600), t60, chance(random, 0.5) ? STRAIGHT : { by: random.between(0.02, 0.15), seconds: 0.02 })
    return chance(random, 0.3) ? mix(out, noiseBurst(random, 0.02, 0.01, 'high', spread(random, 1000, 4000)), random.between(0.05, 0.4)) : out
  },
]

export const circuitClosedHats: readonly Maker[] = [random => circuitPlate(random, spread(random, 0.04, 0.25))]

export const circuitOpenHats: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.45, 2.2)
    const out = circuitPlate(random, t60)
    return chance(random, 0.2) ? gate(out, Math.min(2, t60) * random.between(0.3, 0.7)) : out
  },
]

export const circuitCymbals: readonly Maker[] = [
  // The squares in two bands, of which the upper one dies first.
  (random) => {
    const t60 = spread(random, 1, 8)
    const squares = squareBank(random, Math.min(3, t60))
    const above = shaped(filter(squares.slice(), 'high', spread(random, 5000, 9000)), t => decay(t, t60 * random.between(0.3, 0.6)))
    const below = shaped(filter(squares, 'band', spread(random, 2200, 4800), random.between(0.8, 2.5)), t => decay(t, t60))
    return mix(filter(below, 'high', spread(random, 500, 2000)), above, random.between(0.4, 2))
  },
]

export const circuitMetals: readonly Maker[] = [
  // Two squares through a band well above them, quick at first and then slow.
  (random) => {
    const hz = spread(random, 480, 620)
    const ratio = random.between(1.4, 1.55)
    const t60 = spread(random, 0.2, 1.3)
    const first = random.between(0.2, 0.8)
    const quick = spread(random, 0.04, 0.2)
    const squares = fill(Math.min(1.5, t60), t => ((hz * t) % 1 < 0.5 ? 1 : -1) + ((hz * ratio * t) % 1 < 0.5 ? 1 : -1))
    return shaped(filter(squares, 'band', spread(random, 800, 3800), random.between(0.6, 2)), t => first * decay(t, quick) + (1 - first) * decay(t, t60))
  },
]

export const circuitWoods: readonly Maker[] = [
  random => rung(0.2, spread(random, 1700, 3200), spread(random, 0.04, 0.18)),
  // Two resonators not far from one another: a block.
  (random) => {
    const hz = spread(random, 550, 1300)
    const t60 = spread(random, 0.06, 0.2)
    return mix(rung(t60 * 1.3, hz, t60), rung(t60, hz * random.between(1.4, 1.9), t60 * random.between(0.4, 1)), random.between(0.1, 0.7))
  },
]

export const circuitShakers: readonly Maker[] = [
  (random) => {
    const t60 = spread(random, 0.06, 0.25)
    const attack = spread(random, 0.002, 0.025)
    return filter(fill(t60 * 1.2, t => random.noise() * decay(t, t60) * Math.min(1, t / attack)), 'high', spread(random, 3500, 8000), random.between(0.7, 1.6))
  },
]
