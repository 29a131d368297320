import { resample } from '../core/audio/resample'
import { drive } from '../demo/synth/dsp'
import { chance, decay, filter, mix, noiseBurst, soften, spread, SYNTH_RATE, type Random } from './synth/parts'

/**
 * What happens to a sound on its way into a pack: tuned, equalised, driven, put in a room, cut short, laid over hiss,
 * given silence in front, stored at a lower rate. All at `SYNTH_RATE` but the last.
 */
export function altered(samples: Float32Array, random: Random): { samples: Float32Array, sampleRate: number } {
  let out: Float32Array = samples.slice()
  if (chance(random, 0.5)) out = tuned(out, random.between(-3, 3))
  normalise(out)
  if (chance(random, 0.5)) tilt(out, random)
  if (chance(random, 0.25)) drive(out, spread(random, 0.7, 6))
  if (chance(random, 0.35)) out = inRoom(out, random)
  if (chance(random, 0.2)) out = cutShort(out, random)
  normalise(out)
  if (chance(random, 0.4)) {
    const level = 10 ** (random.between(-80, -50) / 20)
    for (let i = 0; i < out.length; i++) out[i]! += random.noise() * level
  }
  if (chance(random, 0.3)) {
    const late = new Float32Array(out.length + Math.round(random.between(0, 0.1) * SYNTH_RATE))
    late.set(out, late.length - out.length)
    out = late
  }
  const sampleRate = random.pick([48_000, 48_000, 44_100, 44_100, 44_100, 32_000, 22_050])
  return { samples: resample([out], SYNTH_RATE, sampleRate)[0]!, sampleRate }
}

/**
 * What a microphone makes of a sound that was computed: echoes from near-by that smear its beginning, the noise of the
 * touch itself, a softer start, and a level that was evened out.
 */
export function recorded(samples: Float32Array, random: Random): Float32Array {
  let out: Float32Array = samples.slice()
  normalise(out)
  if (chance(random, 0.6)) out = withTouch(out, random)
  if (chance(random, 0.75)) out = smeared(out, random)
  if (chance(random, 0.4)) soften(out, spread(random, 0.0005, 0.008))
  if (chance(random, 0.3)) out = withRumble(out, random)
  if (chance(random, 0.2)) filter(out, 'low', spread(random, 4000, 14_000))
  if (chance(random, 0.5)) waver(out, random)
  if (chance(random, 0.5)) evenOut(out, random.between(0.1, 0.6))
  return out
}

/** What the stand, the floor and the room add far below: a thump, or a hum that dies away. */
function withRumble(samples: Float32Array, random: Random): Float32Array {
  const t60 = spread(random, 0.04, 0.6)
  const low = noiseBurst(random, Math.min(t60, samples.length / SYNTH_RATE), t60, 'low', spread(random, 50, 200), random.between(0.5, 1.2))
  normalise(low)
  return mix(samples, low, 10 ** (random.between(-46, -14) / 20))
}

/** What is struck moves before the microphone: the level goes up and down by some decibels within milliseconds. */
function waver(samples: Float32Array, random: Random): void {
  const step = Math.round(spread(random, 0.004, 0.02) * SYNTH_RATE)
  const depth = random.between(0.1, 0.6)
  let from = 1
  for (let at = 0; at < samples.length; at += step) {
    const to = 2 ** random.between(-3 * depth, 2 * depth)
    const end = Math.min(samples.length, at + step)
    for (let i = at; i < end; i++) samples[i]! *= from + (to - from) * (i - at) / step
    from = to
  }
}

function withTouch(samples: Float32Array, random: Random): Float32Array {
  const t60 = spread(random, 0.015, 0.25)
  const noise = noiseBurst(random, Math.min(t60, samples.length / SYNTH_RATE), t60, random.pick(['low', 'high', 'band', 'band']), spread(random, 700, 9000), random.between(0.4, 1.2))
  normalise(noise)
  return mix(samples, noise, 10 ** (random.between(-36, -8) / 20))
}

function smeared(samples: Float32Array, random: Random): Float32Array {
  const reach = spread(random, 0.002, 0.02)
  const out = new Float32Array(samples.length + Math.ceil(reach * SYNTH_RATE))
  out.set(samples)
  const echoes = 3 + Math.floor(random.between(0, 10))
  for (let echo = 0; echo < echoes; echo++) {
    const after = random.between(0, reach)
    mix(out, samples, random.between(-0.9, 0.9) * Math.exp(-1.5 * after / reach), after)
  }
  return out
}

/** Raises what is quiet: the level to the power of `1 - amount`, followed over about 15 ms. */
function evenOut(samples: Float32Array, amount: number): void {
  const keep = Math.exp(-1 / (0.015 * SYNTH_RATE))
  let level = 0
  for (let i = 0; i < samples.length; i++) {
    level = Math.max(Math.abs(samples[i]!), level * keep)
    samples[i]! *= Math.max(level, 0.003) ** -amount
  }
}

function tuned(samples: Float32Array, semitones: number): Float32Array {
  const speed = 2 ** (semitones / 12)
  const out = new Float32Array(Math.floor(samples.length / speed))
  for (let i = 0; i < out.length; i++) {
    const place = i * speed
    const base = Math.floor(place)
    out[i] = samples[base]! + (samples[Math.min(samples.length - 1, base + 1)]! - samples[base]!) * (place - base)
  }
  return out
}

function tilt(samples: Float32Array, random: Random): void {
  const part = filter(samples.slice(), random.pick(['low', 'high', 'band']), spread(random, 150, 6000))
  const gain = random.between(-0.6, 1.6)
  for (let i = 0; i < samples.length; i++) samples[i]! += part[i]! * gain
}

/** Echoes thrown at random, thinning out: a small room to a hall. */
function inRoom(samples: Float32Array, random: Random): Float32Array {
  const seconds = spread(random, 0.08, 0.9)
  const level = spread(random, 0.03, 0.35)
  const out = new Float32Array(samples.length + Math.round(seconds * 0.6 * SYNTH_RATE))
  out.set(samples)
  const dark = filter(samples.slice(), 'low', spread(random, 2500, 9000))
  for (let echo = 0; echo < 30; echo++) {
    const after = random.between(0.003, seconds * 0.6)
    const start = Math.round(after * SYNTH_RATE)
    const gain = level * decay(after, seconds) * (chance(random, 0.5) ? 1 : -1)
    for (let i = 0; i < dark.length && start + i < out.length; i++) out[start + i]! += dark[i]! * gain
  }
  return out
}

function cutShort(samples: Float32Array, random: Random): Float32Array {
  const out = samples.slice(0, Math.max(1200, Math.round(samples.length * random.between(0.35, 0.9))))
  const fade = Math.min(out.length, Math.round(random.between(0.002, 0.03) * SYNTH_RATE))
  for (let i = 0; i < fade; i++) out[out.length - 1 - i]! *= i / fade
  return out
}

/** Two sounds that begin together, the second one quieter by up to 18 dB: what makers of packs do to get a fuller one. */
export function layered(first: Float32Array, second: Float32Array, random: Random): Float32Array {
  const [below, above] = [first.slice(), second.slice()]
  normalise(below)
  normalise(above)
  const late = Math.max(0, rise(below) - rise(above))
  const early = Math.max(0, rise(above) - rise(below))
  const out = new Float32Array(Math.max(below.length, late + above.length - early))
  out.set(below)
  return mix(out, above.subarray(early), 10 ** (random.between(-18, 0) / 20), late / SYNTH_RATE)
}

/** First frame within 20 dB of full scale. */
function rise(samples: Float32Array): number {
  return Math.max(0, samples.findIndex(value => Math.abs(value) > 0.1))
}

function normalise(samples: Float32Array): void {
  let peak = 0
  for (const value of samples) peak = Math.max(peak, Math.abs(value))
  if (peak > 0) for (let i = 0; i < samples.length; i++) samples[i]! /= peak
}
