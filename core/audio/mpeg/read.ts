import { MPEGDecoder } from 'mpg123-decoder'
import { EmporionError } from '../../errors'
import type { DecodedAudio } from '../decoded'
import { audioOf, withDecoder } from '../decoderOutput'
import { behindTag } from '../id3'
import { mpegStart } from './header'
import { CONVERT_FILE } from '../words'

/** True for an MPEG audio stream, behind an ID3 tag, silence or junk as well. */
export function isMpeg(bytes: Uint8Array): boolean {
  return mpegStart(behindTag(bytes)) !== undefined
}

/**
 * Decodes MPEG-1/2 layers 2 and 3.
 *
 * @throws EmporionError `unreadable`; `unsupported` for layer 1
 */
export async function readMpeg(bytes: Uint8Array): Promise<DecodedAudio> {
  const stream = behindTag(bytes)
  const start = mpegStart(stream)
  if (!start) throw new EmporionError('unreadable', 'No MPEG audio could be decoded: there is no whole frame in it.')
  const { layer, isMono } = start.header
  if (layer === 1) throw new EmporionError('unsupported', { what: 'This is MPEG audio of layer 1, which is not read.', next: CONVERT_FILE })
  // The decoder needs the tag's place for nothing, and what lies before the first frame would be taken for damage.
  const decoded = await withDecoder(new MPEGDecoder({ enableGapless: true }), decoder => Promise.resolve(decoder.decode(stream.subarray(start.offset))))
  const audio = audioOf(decoded, layer === 3 ? { container: 'MP3', codec: 'MP3', bitDepth: 0 } : { container: 'MPEG', codec: 'MPEG layer 2', bitDepth: 0 })
  return isMono ? asMono(audio) : audio
}

/** The decoder doubles one channel into two. Where both differ, some frames had two after all. */
function asMono(audio: DecodedAudio): DecodedAudio {
  const [left, right] = audio.channels
  return left && right && left.every((value, i) => value === right[i]) ? { ...audio, channels: [left] } : audio
}
