/**
 * The place near a frame where a channel crosses zero upwards or downwards: a cut there makes no step. The frame itself where
 * there is none within reach.
 *
 * @param reach frames to look on either side
 */
export function nearestZeroCrossing(channel: Float32Array, frame: number, reach: number): number {
  for (let distance = 0; distance <= reach; distance++) {
    for (const at of distance === 0 ? [frame] : [frame - distance, frame + distance]) {
      if (at <= 0 || at >= channel.length) {
        if (at === 0 || at === channel.length) return at
        continue
      }
      if (channel[at] === 0 || (channel[at - 1]! < 0) !== (channel[at]! < 0)) return at
    }
  }
  return frame
}

/** The nearest of some places that is within reach of a frame, if any. */
export function nearestPlace(places: readonly number[], frame: number, reach: number): number | undefined {
  const within = places.filter(place => Math.abs(place - frame) <= reach)
  return within.sort((a, b) => Math.abs(a - frame) - Math.abs(b - frame))[0]
}

/** Lowest and highest value, -127 to 127, of each of so many columns of a stretch of a channel. */
export function outlineOf(channel: Float32Array, from: number, to: number, columns: number): Int8Array {
  const outline = new Int8Array(columns * 2)
  const span = Math.max(1, to - from)
  for (let column = 0; column < columns; column++) {
    const first = Math.max(0, Math.floor(from + span * column / columns))
    const last = Math.min(channel.length, Math.max(first + 1, Math.ceil(from + span * (column + 1) / columns)))
    let low = 0
    let high = 0
    for (let i = first; i < last; i++) {
      const value = channel[i]!
      if (value < low) low = value
      else if (value > high) high = value
    }
    outline[column * 2] = Math.max(-127, Math.round(low * 127))
    outline[column * 2 + 1] = Math.min(127, Math.round(high * 127))
  }
  return outline
}
