import { extremesOf } from './sweep'

/** Columns in the overview that is kept with every sound. */
export const OVERVIEW_COLUMNS = 96

/**
 * The outline of a waveform: for each column the lowest and the highest sample over all channels, as
 * signed bytes (127 = full scale), low before high. Never flatter than the sound: values are rounded outwards.
 *
 * @returns `columns * 2` signed bytes
 */
export function waveformOverview(channels: readonly Float32Array[], columns: number, startFrame = 0, endFrame = channels[0]?.length ?? 0): Int8Array {
  const out = new Int8Array(columns * 2)
  const span = endFrame - startFrame
  for (let column = 0; column < columns; column++) {
    const from = startFrame + Math.floor(column * span / columns)
    const to = Math.max(from + 1, startFrame + Math.floor((column + 1) * span / columns))
    const [low, high] = extremesOf(channels, from, Math.min(to, endFrame))
    out[column * 2] = Math.max(-127, Math.floor(low * 127))
    out[column * 2 + 1] = Math.min(127, Math.ceil(high * 127))
  }
  return out
}
