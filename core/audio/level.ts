/** Highest absolute sample over all channels, full scale = 1. */
export function samplePeak(channels: readonly Float32Array[]): number {
  let peak = 0
  for (const channel of channels) {
    for (const sample of channel) {
      const magnitude = Math.abs(sample)
      if (magnitude > peak) peak = magnitude
    }
  }
  return peak
}

/** Amplitude to decibels; 0 gives -Infinity. */
export function toDb(amplitude: number): number {
  return 20 * Math.log10(amplitude)
}

/** Decibels to amplitude. */
export function fromDb(db: number): number {
  return 10 ** (db / 20)
}
