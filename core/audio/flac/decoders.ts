import { FLACDecoder } from '@wasm-audio-decoders/flac'
import { letGo } from '../decoderOutput'
import { PROBE_SAMPLES, PROBE_VALUE, probeFrame } from './probe'

const MOST_IDLE = 2

const idle: FLACDecoder[] = []
const PROBE = probeFrame()

/** Making a decoder takes longer than decoding a one-shot, so one serves for many files. Every one that is given here is as a new one. */
export async function takeDecoder(): Promise<FLACDecoder> {
  const decoder = idle.pop() ?? new FLACDecoder()
  await decoder.ready
  return decoder
}

/**
 * Gives a decoder back for the next file. What would be left in it of this one would be read before the first frame of that, of which
 * samples are lost then, mostly without a word. So a frame that is known is decoded first: unless it comes out as it is, the decoder
 * is not used again.
 */
export async function giveBackDecoder(decoder: FLACDecoder): Promise<void> {
  if (idle.length < MOST_IDLE && await isInStep(decoder).catch(() => false)) idle.push(decoder)
  else letGo(decoder)
}

async function isInStep(decoder: FLACDecoder): Promise<boolean> {
  const { errors, samplesDecoded, channelData: [channel, ...others] } = await decoder.decodeFrames([PROBE])
  // The decoder divides by 2^15 - 1.
  return errors.length === 0 && samplesDecoded === PROBE_SAMPLES && others.length === 0 && channel!.every(value => Math.round(value * 32_767) === PROBE_VALUE)
}
