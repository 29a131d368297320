import { EmporionError } from '../errors'

/** Most channels of a file that is read. */
export const MOST_CHANNELS = 32
export const LOWEST_SAMPLE_RATE = 1_000
export const HIGHEST_SAMPLE_RATE = 768_000
/** Most chunks of a file that are looked at: a hostile file may have as many as it has bytes. */
export const MOST_CHUNKS = 4096
/** Most samples of all channels together: in memory each takes four bytes, however few it takes in the file. */
export const MOST_SAMPLES = 256_000_000

/**
 * Checks that a header describes audio that can exist, before memory is taken for it.
 *
 * @throws EmporionError `unreadable` naming the figure that cannot be right, `limit` for more samples than are read
 */
export function checkShape(shape: { channelCount: number, sampleRate: number, frames: number }): void {
  if (shape.channelCount < 1 || shape.channelCount > MOST_CHANNELS) {
    throw new EmporionError('unreadable', `The header speaks of ${shape.channelCount} channels; 1 to ${MOST_CHANNELS} can be read.`)
  }
  if (!(shape.sampleRate >= LOWEST_SAMPLE_RATE && shape.sampleRate <= HIGHEST_SAMPLE_RATE)) {
    throw new EmporionError('unreadable', `The header gives a sample rate of ${shape.sampleRate} Hz, which cannot be right.`)
  }
  if (shape.frames < 1) throw new EmporionError('unreadable', 'The file holds no audio: there is not one whole frame in it.')
  const samples = shape.frames * shape.channelCount
  if (samples > MOST_SAMPLES) throw new EmporionError('limit', `The file holds ${(samples / 1e6).toFixed(0)} million samples; up to ${MOST_SAMPLES / 1e6} million are read.`)
}

/** What is to be said, as warnings, of a file whose header speaks of more frames than are there. */
export function shortness(frames: number, statedFrames: number): string[] {
  return frames < statedFrames ? [`The file is cut short: ${frames} of the ${statedFrames} frames that its header speaks of are there.`] : []
}
