import { resample } from '../resample'

/** What spectra are drawn from. */
export interface Heard {
  readonly mono: Float32Array
  readonly sampleRate: number
  /** Where `mono` begins in the recording. */
  readonly fromSeconds: number
  /** Where the recording's own spectrum ends: above it lies nothing, whatever was recorded. */
  readonly topHz: number
}

/** Transforms have sizes of powers of two, so that at these rates windows last equally long and lines lie equally close. */
const USUAL_RATE = 44_100
/** How far off, in octaves, a rate may be from that one and its doubles and halves: 48 kHz is an eighth. */
const NEAR_ENOUGH = 0.13
/** What is kept before and after, so that no window meets an edge. */
const AROUND_SECONDS = 0.25
/** Part of the lower rate up to which a conversion keeps what was there. */
const KEPT_PART = 0.45

/**
 * Makes a recording ready for spectra. What lies at a rate in between (32, 64 or 8 kHz) is converted: windows half as long
 * again, and bands cut at other lines, would make another sound of the same recording.
 *
 * @param startSeconds, endSeconds of the sound; what lies outside is left away where a recording is converted
 */
export function heardOf(mono: Float32Array, sampleRate: number, startSeconds: number, endSeconds: number): Heard {
  const octaves = Math.log2(sampleRate / USUAL_RATE)
  if (Math.abs(octaves - Math.round(octaves)) <= NEAR_ENOUGH) return { mono, sampleRate, fromSeconds: 0, topHz: sampleRate / 2 }
  const from = Math.max(0, Math.round((startSeconds - AROUND_SECONDS) * sampleRate))
  const kept = mono.subarray(from, Math.ceil((endSeconds + AROUND_SECONDS) * sampleRate))
  return { mono: resample([kept], sampleRate, USUAL_RATE)[0]!, sampleRate: USUAL_RATE, fromSeconds: from / sampleRate, topHz: KEPT_PART * Math.min(sampleRate, USUAL_RATE) }
}
