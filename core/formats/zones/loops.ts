/** A loop within a sample, in frames; `endFrame` is the frame after the last that sounds. */
export interface Loop {
  readonly startFrame: number
  readonly endFrame: number
}

/** Looped sounds are written out to this length: long enough for any hit. */
export const LOOP_WRITTEN_SECONDS = 4

/**
 * Writes a loop out: the sample up to the loop's end, then the loop again until `LOOP_WRITTEN_SECONDS` are full. A kit has no
 * loops; its sounds play from their start to their end.
 *
 * @param channels one array a channel
 * @returns new channels; the given ones where the loop is empty or outside of them
 */
export function writeLoopOut(channels: readonly Float32Array[], sampleRate: number, loop: Loop): readonly Float32Array[] {
  const frames = channels[0]?.length ?? 0
  const { startFrame, endFrame } = loop
  const length = endFrame - startFrame
  const whole = Math.round(LOOP_WRITTEN_SECONDS * sampleRate)
  if (length < 1 || startFrame < 0 || endFrame > frames || whole <= endFrame) return channels
  return channels.map((channel) => {
    const out = new Float32Array(whole)
    out.set(channel.subarray(0, endFrame))
    for (let i = endFrame; i < whole; i++) out[i] = out[i - length]!
    return out
  })
}
