import { EmporionError } from '../errors'
import type { Container, DecodedAudio } from './decoded'
import { checkShape } from './limits'

/** What the decoders of compressed audio give. */
export interface Decoded {
  readonly channelData: Float32Array[]
  readonly samplesDecoded: number
  readonly sampleRate: number
  readonly errors: readonly unknown[]
}

interface Decoder {
  readonly ready: Promise<void>
  free(): void
}

/** Uses a decoder once and frees it. @throws EmporionError `unreadable` */
export async function withDecoder<D extends Decoder>(decoder: D, use: (decoder: D) => Promise<Decoded>): Promise<Decoded> {
  const decoded = await orFree(decoder, () => use(decoder))
  letGo(decoder)
  return decoded
}

/** Frees a decoder. A damaged file can leave one that fails at that, too: its memory goes with the last that refers to it then. */
export function letGo(decoder: Pick<Decoder, 'free'>): void {
  try {
    decoder.free()
  }
  catch {
    // Nothing of it is used any more.
  }
}

/** Uses a decoder, which is freed where that fails. What it says then is about itself, not about the file. @throws EmporionError `unreadable` */
export async function orFree(decoder: Decoder, use: () => Promise<Decoded>): Promise<Decoded> {
  try {
    await decoder.ready
    return await use()
  }
  catch {
    letGo(decoder)
    throw new EmporionError('unreadable', 'The compressed audio could not be decoded: it is damaged.')
  }
}

/** Decoded audio as it is used everywhere. @throws EmporionError `unreadable` where there is none */
export function audioOf(decoded: Decoded, facts: { readonly container: Container, readonly codec: string, readonly bitDepth: number }): DecodedAudio {
  const frames = decoded.samplesDecoded
  if (frames < 1 || decoded.channelData.length === 0) throw new EmporionError('unreadable', `No audio could be decoded from this ${facts.codec} file: it is damaged or cut short.`)
  checkShape({ channelCount: decoded.channelData.length, sampleRate: decoded.sampleRate, frames })
  const errors = decoded.errors.length
  return {
    channels: decoded.channelData.map(channel => channel.length === frames ? channel : channel.slice(0, frames)),
    sampleRate: decoded.sampleRate,
    frames,
    facts: { ...facts, embedded: {}, warnings: errors > 0 ? [`${errors} damaged ${errors === 1 ? 'frame was' : 'frames were'} passed over while decoding.`] : [] },
  }
}
