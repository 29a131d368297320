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
  for (const channel of channels) {
    for (let step = 0, i = 0; step < values.length; step++) {
      const end = Math.min(frames, i + framesPerStep)
      let high = values[step]!
      for (; i < end; i++) {
        high = Math.max(high, Math.abs(channel[i]!))
      }
      values[step] = high
    }
  }
  let peak = 0
  let peakStep = 0
  values.forEach((value, step) => {
    if (value > peak) {
      peak = value
      peakStep = step
    }
  })
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

/** Sum of the squares of a channel's samples. */
export function energyOf(channel: Float32Array): number {
  // Four sums, since a processor adds to one no faster than it finishes the last addition.
  let [a, b, c, d] = [0, 0, 0, 0]
  const even = channel.length & ~3
  for (let i = 0; i < even; i += 4) {
    const [s, t, u, v] = [channel[i]!, channel[i + 1]!, channel[i + 2]!, channel[i + 3]!]
    a += s * s
    b += t * t
    c += u * u
    d += v * v
  }
  for (let i = even; i < channel.length; i++) a += channel[i]! ** 2
  return a + b + c + d
}
