/** A sine at full scale times `level`. */
export function sine(hz: number, sampleRate: number, frames: number, level = 1): Float32Array {
  return Float32Array.from({ length: frames }, (_, i) => level * Math.sin(2 * Math.PI * hz * i / sampleRate))
}

export function peakOf(channel: Float32Array): number {
  return channel.reduce((peak, value) => Math.max(peak, Math.abs(value)), 0)
}

export function rmsOf(channel: Float32Array): number {
  return Math.sqrt(channel.reduce((sum, value) => sum + value * value, 0) / channel.length)
}
