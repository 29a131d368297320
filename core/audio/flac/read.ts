import type { Container, DecodedAudio } from '../decoded'
import { audioOf, letGo, orFree } from '../decoderOutput'
import { flacFrames, type FlacFrames } from './frames'
import { giveBackDecoder, takeDecoder } from './decoders'

/** Decodes FLAC losslessly. @throws EmporionError `unreadable` */
export function readFlac(bytes: Uint8Array): Promise<DecodedAudio> {
  // Frames stand for themselves in FLAC, so that one decoder can be fed with those of many files.
  return decodeFlacFrames(flacFrames(bytes), 'FLAC')
}

/** Decodes the frames of a FLAC stream, each whole. @throws EmporionError `unreadable` */
export async function decodeFlacFrames({ frames, areExact }: FlacFrames, container: Container): Promise<DecodedAudio> {
  let depth = 0
  const decoder = await takeDecoder()
  const decoded = await orFree(decoder, async () => {
    const result = await decoder.decodeFrames(frames)
    depth = result.bitDepth
    result.channelData.forEach(channel => toExactScale(channel, depth))
    return result
  })
  // What a file has behind its last frame (tags of other formats, half a frame) stays in the decoder.
  if (areExact) await giveBackDecoder(decoder)
  else letGo(decoder)
  return audioOf(decoded, { container, codec: 'FLAC', bitDepth: depth })
}

/** Added and taken away again it leaves whole numbers (IEEE 754: so high there are no others), in a third of the time that `Math.round` takes. */
const TO_WHOLE = 1.5 * 2 ** 52

/** The decoder divides by 2^(bits-1) - 1; integers survive exactly only over 2^(bits-1), as in WAVE. */
function toExactScale(channel: Float32Array, bits: number): void {
  const full = 2 ** (bits - 1)
  const back = 1 / full
  for (let i = 0; i < channel.length; i++) channel[i] = (channel[i]! * (full - 1) + TO_WHOLE - TO_WHOLE) * back
}
