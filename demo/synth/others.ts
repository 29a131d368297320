import type { Drum } from './drums'
import { addModes, decay, fill, filter, mix, noiseBurst, silence, SYNTH_RATE, type Random } from './dsp'

function grains(random: Random, seconds: number, count: number, hz: number, q: number): Float32Array {
  const out = silence(seconds)
  for (let grain = 0; grain < count; grain++) {
    const at = random.between(0, 1) ** 1.5 * seconds * 0.7
    mix(out, noiseBurst(random, 0.015, 0.008, 'band', hz * random.between(0.8, 1.25), q), random.between(0.3, 1), at)
  }
  return out
}

export const shaker: Drum = random => filter(grains(random, random.between(0.12, 0.2), 60, random.between(5500, 7500), 1.2), 'high', 3000)
export const maracas: Drum = random => filter(grains(random, 0.08, 30, random.between(6000, 8000), 1.5), 'high', 4000)

export const woodBlock: Drum = (random) => {
  const hz = random.between(750, 1300)
  const out = addModes(silence(0.2), [{ hz, level: 1, t60: 0.11 }, { hz: hz * 2.42, level: 0.4, t60: 0.06 }, { hz: hz * 3.9, level: 0.15, t60: 0.03 }])
  return mix(out, noiseBurst(random, 0.006, 0.003, 'high', 2000), 0.4)
}

export const claves: Drum = random => addModes(silence(0.16), [{ hz: random.between(2300, 2700), level: 1, t60: 0.1 }, { hz: random.between(6200, 6900), level: 0.12, t60: 0.04 }])

export const scraper: Drum = (random) => {
  const out = silence(0.4)
  const gap = random.between(0.011, 0.016)
  for (let notch = 0; notch * gap < 0.34; notch++) mix(out, noiseBurst(random, 0.02, 0.012, 'band', random.between(2500, 3200), 3), 0.5 + notch * gap, notch * gap)
  return out
}

const VOWELS = { ah: [730, 1090, 2440], oh: [570, 840, 2410], eh: [530, 1840, 2480], oo: [300, 870, 2240] } as const

/** A shout: a glottal buzz through the three formants of a vowel. Formants: Peterson and Barney 1952 (from memory). */
export const shout: Drum = (random) => {
  const seconds = random.between(0.3, 0.55)
  const hz = random.between(110, 210)
  const formants = random.pick(Object.values(VOWELS))
  let phase = 0
  const buzz = fill(seconds, (t) => {
    phase += hz * (1.08 - 0.25 * t / seconds) / SYNTH_RATE
    const edge = Math.min(1, t / 0.02) * Math.min(1, (seconds - t) / 0.12)
    return ((phase % 1) * 2 - 1 + random.noise() * 0.15) * edge
  })
  const out = silence(seconds)
  formants.forEach((formant, i) => mix(out, filter(buzz.slice(), 'band', formant, 8), 1 / (i + 1)))
  return out
}

/** The ship's horn: low reeds, a slow swell. */
export const horn: Drum = (random) => {
  const seconds = random.between(1.6, 2.4)
  const hz = random.between(88, 130)
  const buzz = fill(seconds, (t) => {
    const edge = Math.min(1, t / 0.15) * Math.min(1, (seconds - t) / 0.4)
    return [1, 1.26, 0.5].reduce((sum, ratio) => sum + ((hz * ratio * t) % 1 * 2 - 1), 0) / 3 * edge
  })
  return filter(filter(buzz, 'low', 900), 'low', 1600)
}

/** A wave against the hull. */
export const wave: Drum = (random) => {
  const seconds = random.between(1.2, 2.2)
  const out = fill(seconds, t => random.noise() * Math.sin(Math.PI * t / seconds) ** 2 * (1 + 0.3 * Math.sin(t * 23)))
  return filter(filter(out, 'low', random.between(1400, 2600)), 'high', 150)
}

export const gull: Drum = (random) => {
  const seconds = random.between(0.35, 0.6)
  const hz = random.between(1300, 1900)
  let phase = 0
  return filter(fill(seconds, (t) => {
    phase += hz * (1 + 0.5 * Math.sin(Math.PI * t / seconds)) / SYNTH_RATE
    return ((phase % 1) * 2 - 1) * Math.sin(Math.PI * t / seconds)
  }), 'band', hz * 1.6, 1)
}

export const ratchet: Drum = (random) => {
  const out = silence(0.9)
  for (let tooth = 0; tooth < 16; tooth++) {
    mix(out, addModes(silence(0.05), [{ hz: random.between(1900, 2500), level: 1, t60: 0.03 }, { hz: 4300, level: 0.5, t60: 0.02 }]), 0.8, tooth * 0.052)
  }
  return out
}

/** A tuned engine tone: a few harmonics of a note. */
export function engineTone(note: number): Drum {
  return (random) => {
    const hz = 440 * 2 ** ((note - 69) / 12)
    const t60 = random.between(0.8, 1.4)
    return filter(fill(t60, t => [1, 2, 3, 4].reduce((sum, n) => sum + Math.sin(2 * Math.PI * hz * n * t) / n, 0) * decay(t, t60) * Math.min(1, t / 0.003)), 'low', hz * 8)
  }
}
