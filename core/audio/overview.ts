import { outlineOf } from './sweep'

/** Columns in the overview that is kept with every sound. */
export const OVERVIEW_COLUMNS = 96

/**
 * The outline of a waveform: for each column the lowest and the highest sample over all channels, as
 * signed bytes (127 = full scale), low before high. Never flatter than the sound: values are rounded outwards.
 *
 * @returns `columns * 2` signed bytes
 */
export function waveformOverview(channels: readonly Float32Array[], columns: number): Int8Array {
  const outline = outlineOf(channels, columns)
  const out = new Int8Array(outline.length)
  for (let i = 0; i < out.length; i += 2) {
    out[i] = Math.max(-127, Math.floor(outline[i]! * 127))
    out[i + 1] = Math.min(127, Math.ceil(outline[i + 1]! * 127))
  }
  return out
}
