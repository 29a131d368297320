/** A stretch of a part that fades, in frames. */
export interface EdgeStretch {
  /** Place in the part of the first frame, and of each one after it. */
  readonly from: number
  readonly step?: number
  readonly count: number
  /** Length of the whole part. */
  readonly span: number
  readonly fadeIn: number
  readonly fadeOut: number
}

/** Fades the first `count` samples of each channel, in a straight line, where they lie near the start or the end of their part. */
export function fadeEdges(channels: readonly Float32Array[], { from, step = 1, count, span, fadeIn, fadeOut }: EdgeStretch): void {
  if (fadeIn === 0 && fadeOut === 0) return
  for (let i = 0; i < count; i++) {
    const place = from + i * step
    const level = ramp(place, fadeIn) * ramp(span - 1 - place, fadeOut)
    for (const channel of channels) channel[i]! *= level
  }
}

function ramp(place: number, frames: number): number {
  return frames === 0 ? 1 : Math.max(0, Math.min(1, place / frames))
}
