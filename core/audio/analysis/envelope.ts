import { raiseToPeaks } from '../sweep'

/** The outline of a sound's level, a value each millisecond: the highest absolute sample of any channel. */
export interface Envelope {
  readonly values: Float32Array
  readonly framesPerStep: number
  readonly sampleRate: number
  readonly peak: number
  /** Step of the peak. */
  readonly peakStep: number
}

const STEP_SECONDS = 0.001

/** Draws the envelope of a sound. */
export function envelopeOf(channels: readonly Float32Array[], sampleRate: number): Envelope {
  const framesPerStep = Math.max(1, Math.round(STEP_SECONDS * sampleRate))
  const frames = channels[0]?.length ?? 0
  const values = new Float32Array(Math.ceil(frames / framesPerStep))
  for (const channel of channels) raiseToPeaks(values, channel, framesPerStep)
  let peak = 0
  let peakStep = 0
  for (let step = 0; step < values.length; step++) {
    if (values[step]! > peak) {
      peak = values[step]!
      peakStep = step
    }
  }
  return { values, framesPerStep, sampleRate, peak, peakStep }
}

/** Seconds at the beginning of a step. */
export function stepSeconds(envelope: Envelope, step: number): number {
  return step * envelope.framesPerStep / envelope.sampleRate
}

/** Number of steps in so many seconds, at least one. */
export function stepsIn(envelope: Envelope, seconds: number): number {
  return Math.max(1, Math.round(seconds * envelope.sampleRate / envelope.framesPerStep))
}

// Plain loops: the methods of typed arrays call a function for each value, and envelopes are gone through many times.

/** The highest of the values from one step to before another, 0 where there are none. */
export function highestIn(values: Float32Array, from: number, to: number): number {
  let highest = 0
  const end = Math.min(values.length, to)
  for (let step = Math.max(0, from); step < end; step++) if (values[step]! > highest) highest = values[step]!
  return highest
}

/** The first step from one on that reaches a level, or -1. */
export function firstReaching(values: Float32Array, level: number, from = 0): number {
  for (let step = from; step < values.length; step++) if (values[step]! >= level) return step
  return -1
}

/** The last step that reaches a level, or -1. */
export function lastReaching(values: Float32Array, level: number): number {
  let step = values.length - 1
  while (step >= 0 && !(values[step]! >= level)) step--
  return step
}
