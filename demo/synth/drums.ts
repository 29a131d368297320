import { addModes, decay, drive, fill, filter, mix, noiseBurst, silence, SYNTH_RATE, type Mode, type Random } from './dsp'

/** How hard a drum is struck, 0 to 1: harder is brighter and longer. */
export type Force = number

/** A drum: from chance and force to one mono hit at `SYNTH_RATE`. */
export type Drum = (random: Random, force: Force) => Float32Array

/** Modes of an ideal round membrane, over its lowest. Source: Rossing, "Science of Percussion Instruments" (from memory). */
const MEMBRANE = [1, 1.594, 2.136, 2.296, 2.653, 2.918, 3.156, 3.501]

function sweptSine(seconds: number, startHz: number, endHz: number, sweepSeconds: number, t60: number): Float32Array {
  let phase = 0
  return fill(seconds, (t) => {
    phase += 2 * Math.PI * (endHz + (startHz - endHz) * Math.exp(-t / sweepSeconds)) / SYNTH_RATE
    return Math.sin(phase) * decay(t, t60)
  })
}

export function kick(long: boolean): Drum {
  return (random, force) => {
    const end = random.between(42, 62)
    const t60 = long ? random.between(0.7, 1.1) : random.between(0.25, 0.45)
    const body = sweptSine(t60 * 0.9, end * random.between(3, 6), end, random.between(0.012, 0.03), t60)
    mix(body, noiseBurst(random, 0.02, 0.012, 'high', 2500), 0.15 + 0.35 * force)
    mix(body, sweptSine(0.03, 2400, 300, 0.004, 0.02), 0.2 * force)
    return drive(body, 1 + force * 1.5)
  }
}

export const snare: Drum = (random, force) => {
  const low = random.between(165, 230)
  const t60 = random.between(0.18, 0.4)
  const out = silence(t60 * 1.3)
  addModes(out, [{ hz: low, level: 0.7, t60: t60 * 0.6 }, { hz: low * 1.59, level: 0.4, t60: t60 * 0.45 }, { hz: low * 2.3, level: 0.2, t60: t60 * 0.3 }])
  mix(out, filter(noiseBurst(random, t60 * 1.3, t60, 'band', random.between(1800, 3400), 0.6), 'low', 9000), 0.8 + 0.7 * force)
  mix(out, noiseBurst(random, 0.012, 0.008, 'high', 3000), 0.6 * force)
  return drive(out, 1 + force * 0.6)
}

export const rim: Drum = (random, force) => {
  const out = silence(0.16)
  const hz = random.between(420, 560)
  addModes(out, [{ hz, level: 0.5, t60: 0.06 }, { hz: hz * 3.6, level: 0.8, t60: 0.035 }, { hz: hz * 5.3, level: 0.3 * force, t60: 0.02 }])
  return mix(out, noiseBurst(random, 0.01, 0.004, 'high', 4000), 0.5)
}

export const clap: Drum = (random) => {
  const t60 = random.between(0.18, 0.35)
  const out = silence(t60 + 0.05)
  const hz = random.between(1000, 1500)
  for (let hand = 0; hand < 4; hand++) {
    const at = hand * random.between(0.008, 0.013)
    mix(out, noiseBurst(random, 0.05, hand === 3 ? 0.06 : 0.014, 'band', hz, 1.4), 1.5, at)
  }
  return mix(out, noiseBurst(random, t60, t60, 'band', hz * 1.2, 0.8), 0.7, 0.03)
}

export const snap: Drum = (random) => {
  const out = silence(0.14)
  mix(out, noiseBurst(random, 0.03, 0.02, 'band', random.between(2200, 3200), 3), 3)
  return addModes(out, [{ hz: random.between(1700, 2300), level: 0.4, t60: 0.05 }])
}

/** Six square waves in no harmonic order, as the body of hats and of struck sheet metal. */
function sheet(random: Random, seconds: number, t60: number, baseHz: number): Float32Array {
  const ratios = [1, 1.342, 1.531, 1.938, 2.291, 2.647].map(ratio => ratio * random.between(0.97, 1.03))
  return fill(seconds, t => ratios.reduce((sum, ratio) => sum + Math.sign(Math.sin(2 * Math.PI * baseHz * ratio * t)), 0) / 6 * decay(t, t60))
}

function hat(random: Random, force: Force, t60: number): Float32Array {
  const seconds = t60 * 1.2
  const out = filter(sheet(random, seconds, t60, random.between(380, 520)), 'high', 6500, 1)
  mix(out, noiseBurst(random, seconds, t60 * 0.8, 'high', 7500), 0.7)
  mix(out, noiseBurst(random, 0.01, 0.005, 'high', 5000), 0.6 * force)
  return filter(out, 'high', 5000)
}

export const closedHat: Drum = (random, force) => hat(random, force, random.between(0.04, 0.09))
export const openHat: Drum = (random, force) => hat(random, force, random.between(0.5, 1.1))
export const pedalHat: Drum = (random) => {
  const out = hat(random, 0.1, random.between(0.08, 0.14))
  return mix(filter(out, 'low', 9000), noiseBurst(random, 0.04, 0.03, 'band', 500), 0.8)
}

function membrane(random: Random, hz: number, t60: number, force: Force, skin: number): Float32Array {
  const out = silence(t60 * 1.1)
  const modes: Mode[] = MEMBRANE.map((ratio, i) => ({
    hz: hz * ratio * random.between(0.99, 1.01),
    level: (i === 0 ? 1 : 0.5 * (0.4 + force) / (i + 0.5)) * random.between(0.8, 1.1),
    t60: t60 / (1 + i * 0.55),
  }))
  addModes(out, modes)
  return mix(out, noiseBurst(random, 0.03, 0.02, 'band', hz * 12, 0.7), skin * (0.5 + force))
}

export function tom(lowHz: number, highHz: number): Drum {
  return (random, force) => {
    const hz = random.between(lowHz, highHz)
    const t60 = random.between(0.5, 0.9) * (130 / hz) ** 0.4
    const out = membrane(random, hz, t60, force, 0.7)
    return mix(out, sweptSine(t60, hz * 1.35, hz, 0.04, t60), 0.8)
  }
}

export const bongo: Drum = (random, force) => membrane(random, random.between(300, 480), random.between(0.15, 0.25), force, 0.9)
export const conga: Drum = (random, force) => membrane(random, random.between(170, 260), random.between(0.3, 0.5), force, 0.6)
export const frameDrum: Drum = (random, force) => mix(
  membrane(random, random.between(75, 120), random.between(0.6, 1.1), force, 0.4),
  noiseBurst(random, 0.25, 0.2, 'band', 900, 0.6), 0.25)
