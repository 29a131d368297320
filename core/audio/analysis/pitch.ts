import { Polyphase } from '../polyphase'
import { sincKernel } from '../sinc'
import { energyOf } from '../sweep'
import { highestIn } from './envelope'
import { fallenFrom } from './fallen'
import { fftOf, hannWindow, SMALLEST_FFT } from './fft'
import { isSurePitch } from './surePitch'

/** The pitch that a sound is heard at. */
export interface Pitch {
  readonly hz: number
  /** 0 to 1: how much of the sound's power between 25 Hz and 4 kHz belongs to this tone and its multiples. */
  readonly share: number
  /** The same, but less where most of its power lies higher: that it is heard as the pitch of the sound. */
  readonly confidence: number
}

const LONGEST_WINDOW_SECONDS = 0.4
const SHORTEST_WINDOW_SECONDS = 0.015
/** The blow itself has no pitch, and a bass drum's falls at first; of what is brief a part is left out. */
const AFTER_ATTACK_SECONDS = 0.02
const AFTER_ATTACK_PART = 0.25
const LOWEST_HZ = 25
const HIGHEST_HZ = 4000
/** A lower partial counts as the fundamental when it is at most this far below the strongest. */
const FUNDAMENTAL_BELOW_DB = 12
/** A lower peak so near to one that is stronger by so much is its edge, or a beat in it. */
const EDGE_RATIO = 2 ** (4 / 12)
const EDGE_BELOW_DB = 3
/** Rate that is enough for tones up to 4 kHz. */
const ENOUGH_HZ = 11_025
const THINNING_CROSSINGS = 3
const HARMONICS = 8
/** A tone is heard as the sound's pitch where so much of all power lies within what that rate holds. */
const ENOUGH_PART = 0.4

/**
 * Finds the fundamental of what sounds on after the attack: the lowest strong peak of a long spectrum, its place
 * between two lines by a parabola through the logarithms of three; of a tone that falls, where it comes to rest.
 * Source: J. O. Smith, "Spectral Audio Signal Processing", quadratically interpolated FFT peaks.
 *
 * @param fromSeconds, toSeconds the part to look at: from the attack to the end of the sound
 * @returns undefined where the sound is too short, or nothing in it stands out
 */
export function pitchOf(mono: Float32Array, fullRate: number, fromSeconds: number, toSeconds: number): Pitch | undefined {
  const end = Math.min(toSeconds, mono.length / fullRate)
  const start = fromSeconds + Math.min(AFTER_ATTACK_SECONDS, (end - fromSeconds) * AFTER_ATTACK_PART)
  const seconds = Math.min(LONGEST_WINDOW_SECONDS, end - start)
  if (seconds < SHORTEST_WINDOW_SECONDS) return undefined
  const { samples, sampleRate, part } = thinned(mono, fullRate, start, seconds)
  const frames = windowFrames(samples.length)
  const size = Math.max(SMALLEST_FFT, 2 ** Math.ceil(Math.log2(frames)))
  const power = fftOf(size).power(samples, 0, hannWindow(frames))
  const perBin = sampleRate / size
  const low = Math.max(1, Math.ceil(Math.max(LOWEST_HZ, 2 * sampleRate / frames) / perBin))
  const high = Math.min(power.length - 2, Math.floor(HIGHEST_HZ / perBin))
  const { bin, isEdged } = lowestStrong(power, low, high)
  if (bin === undefined) return undefined
  const hz = (bin + parabolaTop(power, bin)) * perBin
  const share = toneShare(power, hz, perBin, frames, sampleRate, low, high)
  const pitch = { hz, share, confidence: share * Math.min(1, part / ENOUGH_PART) }
  // Of two tones that lie close together neither can be followed.
  return isEdged || !isSurePitch(pitch) ? pitch : { ...pitch, hz: fallenFrom(hz, samples, sampleRate) }
}

/** The lowest peak that may be a fundamental, and whether something beside it was passed over. */
function lowestStrong(power: Float32Array, low: number, high: number): { readonly bin: number | undefined, readonly isEdged: boolean } {
  const least = highestIn(power, low, high + 1) * 10 ** (-FUNDAMENTAL_BELOW_DB / 10)
  let edge = 0
  for (let bin = low; bin <= high && least > 0; bin++) {
    const value = power[bin]!
    if (value < least || value < power[bin - 1]! || value <= power[bin + 1]!) continue
    const around = highestIn(power, bin, Math.min(high, Math.floor(bin * EDGE_RATIO)) + 1)
    if (around <= value * 10 ** (EDGE_BELOW_DB / 10)) return { bin, isEdged: edge * EDGE_RATIO >= bin }
    edge = bin
  }
  return { bin: undefined, isEdged: false }
}

/** Frames that a window takes of so many: a few lengths only, so that windows are made once. */
function windowFrames(frames: number): number {
  const step = 2 ** Math.max(0, Math.floor(Math.log2(frames)) - 3)
  return Math.floor(frames / step) * step
}

/** Low passes by how many samples become one. */
const thinners = new Map<number, { readonly polyphase: Polyphase, readonly halfWidth: number }>()

function thinnerOf(step: number) {
  const known = thinners.get(step)
  if (known) return known
  const kernel = sincKernel(THINNING_CROSSINGS, 0.9 / step, 7, 1)
  const made = { polyphase: new Polyphase(1, step, kernel), halfWidth: kernel.halfWidth }
  thinners.set(step, made)
  return made
}

interface Thinned {
  readonly samples: Float32Array
  readonly sampleRate: number
  /** How much of the power of the stretch is still there, 0 to 1. */
  readonly part: number
}

/** A stretch at every n-th sample of its low-passed self: a spectrum of tones needs no more. */
function thinned(mono: Float32Array, fullRate: number, startSeconds: number, seconds: number): Thinned {
  const step = Math.max(1, Math.floor(fullRate / ENOUGH_HZ))
  const { polyphase, halfWidth } = thinnerOf(step)
  const count = Math.max(1, Math.floor(seconds * fullRate / step))
  // What lies before it counts as well; whole steps of that are made first, and left out.
  const before = Math.ceil(halfWidth / step)
  const from = Math.round(startSeconds * fullRate) - before * step
  const whole = new Float32Array(before + count)
  polyphase.convert(padded(mono, from, from + whole.length * step + halfWidth), whole)
  const samples = whole.subarray(before)
  const start = from + before * step
  return { samples, sampleRate: fullRate / step, part: energyOf(samples) * step / energyOf(mono.subarray(start, start + count * step)) }
}

/** A stretch, with silence where it passes the ends of the sound. */
function padded(mono: Float32Array, from: number, to: number): Float32Array {
  if (from >= 0) return mono.subarray(from, to)
  const stretch = new Float32Array(to - from)
  stretch.set(mono.subarray(0, to), -from)
  return stretch
}

/** Offset of the true top from the highest of three lines, -0.5 to 0.5. */
function parabolaTop(power: Float32Array, bin: number): number {
  const [a, b, c] = [power[bin - 1]!, power[bin]!, power[bin + 1]!].map(value => Math.log(value + 1e-30)) as [number, number, number]
  const curve = a - 2 * b + c
  return curve === 0 ? 0 : Math.max(-0.5, Math.min(0.5, (a - c) / (2 * curve)))
}

function toneShare(power: Float32Array, hz: number, perBin: number, frames: number, sampleRate: number, low: number, high: number): number {
  let all = 0
  for (let bin = low; bin <= high; bin++) all += power[bin]!
  const halfWidth = 2 * sampleRate / frames / perBin
  let tone = 0
  let covered = low
  for (let n = 1; n <= HARMONICS && n * hz / perBin <= high; n++) {
    const to = Math.min(high, Math.round(n * hz / perBin + halfWidth))
    for (let bin = Math.max(covered, Math.round(n * hz / perBin - halfWidth)); bin <= to; bin++) tone += power[bin]!
    covered = to + 1
  }
  return all > 0 ? Math.min(1, tone / all) : 0
}

/** The note nearest to a frequency, with cents from -50 to 50. Sources: ISO 16 (A = 440 Hz), MIDI 1.0. */
export function nearestNote(hz: number): { note: number, cents: number } {
  const exact = 69 + 12 * Math.log2(hz / 440)
  const note = Math.round(exact)
  return { note, cents: (exact - note) * 100 }
}
