import { decoder as createDecoder } from '@audio/decode-wavpack'
import { EmporionError } from '../../errors'
import { startsWith } from '../bytes'
import type { DecodedAudio } from '../decoded'
import { letGo } from '../decoderOutput'
import { checkShape, shortness } from '../limits'
import { wavpackBlocks, type WavpackBlocks } from './blocks'

/** Bytes that are handed to the decoder at once, where blocks are not longer: its memory is never given back. */
const FEED_BYTES = 1_000_000

/** True when the bytes begin with a block of WavPack. */
export function isWavpack(bytes: Uint8Array): boolean {
  return startsWith(bytes, 'wvpk')
}

/**
 * Decodes WavPack: PCM of 8 to 32 bits and float, lossless or hybrid without its correction file.
 *
 * @throws EmporionError `unreadable`, `unsupported` (DSD, other versions), `limit`
 */
export async function readWavpack(bytes: Uint8Array): Promise<DecodedAudio> {
  const blocks = wavpackBlocks(bytes)
  checkShape({ channelCount: 1, sampleRate: 44_100, frames: blocks.frames })
  const { parts, sampleRate } = await decodeParts(bytes, blocks)
  const channelCount = parts[0]?.length ?? 0
  const frames = parts.reduce((sum, part) => sum + part[0]!.length, 0)
  checkShape({ channelCount, sampleRate, frames })
  const channels = Array.from({ length: channelCount }, (_, channel) => joined(parts.map(part => part[channel]!), frames))
  if (!blocks.isFloat) for (const channel of channels) toExactScale(channel, blocks)
  return {
    channels,
    sampleRate,
    frames,
    facts: {
      container: 'WavPack',
      codec: blocks.isLossless ? 'WavPack' : 'WavPack hybrid',
      bitDepth: blocks.isLossless ? blocks.bits : 0,
      embedded: {},
      warnings: shortness(frames, blocks.statedFrames ?? frames),
    },
  }
}

async function decodeParts(bytes: Uint8Array, { bounds }: WavpackBlocks): Promise<{ parts: readonly (readonly Float32Array[])[], sampleRate: number }> {
  const decoder = await createDecoder()
  const parts: Float32Array[][] = []
  let sampleRate = 0
  try {
    for (let from = 0; from + 1 < bounds.length;) {
      let to = from + 1
      while (to + 1 < bounds.length && bounds[to + 1]! - bounds[from]! <= FEED_BYTES) to++
      const part = decoder.decode(bytes.subarray(bounds[from], bounds[to]))
      if (part.channelData.length > 0 && part.channelData.length === (parts[0] ?? part.channelData).length) {
        parts.push(part.channelData)
        sampleRate = part.sampleRate
      }
      from = to
    }
  }
  catch {
    throw new EmporionError('unreadable', 'The WavPack audio could not be decoded: it is damaged.')
  }
  finally {
    letGo(decoder)
  }
  return { parts, sampleRate }
}

function joined(parts: readonly Float32Array[], frames: number): Float32Array {
  if (parts.length === 1) return parts[0]!
  const whole = new Float32Array(frames)
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

/** The decoder takes its whole numbers for ones of as many bits as are used, whatever bytes they lie in, and gives full scale two meanings. */
function toExactScale(channel: Float32Array, { bits, bytesPerSample }: WavpackBlocks): void {
  const [below, above] = [2 ** (bits - 1), 2 ** (bits - 1) - 1]
  const full = 2 ** (bytesPerSample * 8 - 1)
  for (let i = 0; i < channel.length; i++) {
    const value = channel[i]!
    channel[i] = Math.round(value * (value < 0 ? below : above)) / full
  }
}
