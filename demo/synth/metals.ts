import type { Drum } from './drums'
import { addModes, decay, fill, filter, mix, noiseBurst, silence, type Mode, type Random } from './dsp'

/** Many modes in no order, the higher ones dying sooner. */
function plate(random: Random, count: number, lowHz: number, highHz: number, t60: number): Mode[] {
  return Array.from({ length: count }, () => {
    const hz = lowHz * (highHz / lowHz) ** random.between(0, 1)
    return { hz, level: random.between(0.2, 1) / Math.sqrt(count), t60: t60 * random.between(0.5, 1) * (lowHz / hz) ** 0.25 }
  })
}

/** The wash of a cymbal swells for a moment before it dies away. */
function wash(random: Random, seconds: number, t60: number, hz: number): Float32Array {
  return filter(fill(seconds, t => random.noise() * decay(t, t60) * Math.min(1, 0.4 + t * 12)), 'high', hz)
}

export const crash: Drum = (random, force) => {
  const t60 = random.between(1.6, 2.6)
  const out = addModes(silence(t60), plate(random, 70, 350, 13000, t60))
  mix(out, wash(random, t60, t60 * 0.8, 3500), 0.7 + force * 0.4)
  return filter(out, 'high', 300)
}

export const ride: Drum = (random, force) => {
  const t60 = random.between(1.8, 2.6)
  const out = addModes(silence(t60), plate(random, 50, 420, 11000, t60), 0.7)
  const ping = random.between(2600, 3600)
  addModes(out, [{ hz: ping, level: 0.5 * force, t60: 0.4 }, { hz: ping * 1.52, level: 0.35 * force, t60: 0.3 }])
  mix(out, wash(random, t60, t60 * 0.6, 6000), 0.25)
  return mix(out, noiseBurst(random, 0.008, 0.004, 'high', 4000), 0.5)
}

export const rideBell: Drum = (random) => {
  const hz = random.between(620, 800)
  return addModes(silence(1.6), [1, 1.52, 2.31, 3.18, 4.4].map((ratio, i) => ({ hz: hz * ratio, level: 0.7 / (i + 1), t60: 1.5 / (1 + i * 0.3) })))
}

export const splash: Drum = (random) => {
  const out = addModes(silence(0.8), plate(random, 50, 700, 14000, 0.7))
  return mix(out, wash(random, 0.8, 0.5, 5000), 0.8)
}

export const china: Drum = (random) => {
  const out = addModes(silence(1.4), plate(random, 60, 280, 9000, 1.2))
  mix(out, noiseBurst(random, 1.4, 0.9, 'band', 3000, 0.6), 1.2)
  return out
}

export const cowbell: Drum = (random) => {
  const hz = random.between(520, 580)
  const out = fill(0.45, t => (Math.sign(Math.sin(2 * Math.PI * hz * t)) + Math.sign(Math.sin(2 * Math.PI * hz * 1.508 * t))) * decay(t, 0.35))
  return filter(out, 'band', hz * 2, 1.2)
}

export const triangle: Drum = (random) => {
  const hz = random.between(1150, 1400)
  return addModes(silence(2), [1, 2.76, 5.4, 7.1, 8.9].map((ratio, i) => ({ hz: hz * ratio, level: 0.5 / (1 + i * 0.3), t60: 2.2 / (1 + i * 0.2) })))
}

/** A ship's bell: hum, prime, tierce, quint, nominal. */
export const shipsBell: Drum = (random) => {
  const hz = random.between(380, 620)
  const partials = [[0.5, 0.4, 2.6], [1, 0.7, 2.2], [1.19, 0.5, 1.6], [1.5, 0.35, 1.3], [2, 0.8, 1.2], [2.67, 0.3, 0.8], [3, 0.25, 0.6]] as const
  return addModes(silence(2.4), partials.map(([ratio, level, t60]) => ({ hz: hz * ratio, level, t60 })))
}

/** A chain let down on the deck: link after link. */
export const chain: Drum = (random) => {
  const out = silence(0.7)
  for (let link = 0; link < 14; link++) {
    const hit = addModes(silence(0.12), plate(random, 8, 1800, 9000, 0.08))
    mix(out, hit, random.between(0.3, 1), random.between(0, 0.5))
  }
  return out
}

export const tambourine: Drum = (random, force) => {
  const out = silence(0.4)
  for (let jingle = 0; jingle < 6; jingle++) {
    mix(out, addModes(silence(0.3), plate(random, 6, 5000, 13000, 0.22)), 0.6, random.between(0, 0.02))
  }
  return mix(out, noiseBurst(random, 0.3, 0.12, 'high', 7000), 0.4 + force * 0.4)
}
