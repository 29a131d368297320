import { EmporionError } from '../../errors'
import { ByteReader } from '../bytes'
import { clampedTo16, imaStep, startOfIma } from '../ima'

/** How blocks of ADPCM are laid out, as the format chunk says. */
export interface AdpcmLayout {
  readonly codec: 'IMA ADPCM' | 'MS ADPCM'
  readonly channelCount: number
  readonly blockBytes: number
  /** Pairs of factors, in 256ths, that MS ADPCM predicts with. */
  readonly factors: readonly (readonly [number, number])[]
}

interface Block {
  readonly reader: ByteReader
  readonly at: number
  readonly bytes: number
}

/** Writes the frames of a block from `frame` on, as far as `out` reaches. */
type DecodeBlock = (block: Block, layout: AdpcmLayout, out: readonly Float32Array[], frame: number) => void

interface Codec {
  readonly headerBytes: number
  /** Frames that the header of a block holds. */
  readonly headerFrames: number
  readonly decode: DecodeBlock
}

const CODECS: Readonly<Record<AdpcmLayout['codec'], Codec>> = {
  'IMA ADPCM': { headerBytes: 4, headerFrames: 1, decode: decodeImaBlock },
  'MS ADPCM': { headerBytes: 7, headerFrames: 2, decode: decodeMsBlock },
}

/** Frames in so many bytes of blocks, of which the last may be cut short. */
export function adpcmFrames(bytes: number, layout: AdpcmLayout): number {
  const whole = Math.floor(bytes / layout.blockBytes)
  return whole * framesOfBlock(layout.blockBytes, layout) + framesOfBlock(bytes - whole * layout.blockBytes, layout)
}

function framesOfBlock(bytes: number, { codec, channelCount }: AdpcmLayout): number {
  const { headerBytes, headerFrames } = CODECS[codec]
  const coded = bytes - headerBytes * channelCount
  if (coded < 0) return 0
  // IMA codes eight samples of one channel after eight of the other; MS turn by turn.
  return headerFrames + (codec === 'IMA ADPCM' ? Math.floor(coded / (4 * channelCount)) * 8 : Math.floor(coded * 2 / channelCount))
}

/**
 * Decodes 4-bit ADPCM of WAVE files into planar floats, full scale at +-1.
 * Source: Microsoft, New Multimedia Data Types and Data Techniques, 3.0 (1994), "Microsoft ADPCM" and "IMA ADPCM" (from memory).
 *
 * @param frames at most as many as `adpcmFrames` gives
 * @throws EmporionError `unreadable` for blocks too short for their own header, or that ask for factors that the file does not have
 */
export function decodeAdpcm(bytes: Uint8Array, frames: number, layout: AdpcmLayout): Float32Array[] {
  const { headerBytes, decode } = CODECS[layout.codec]
  if (layout.blockBytes < headerBytes * layout.channelCount) throw new EmporionError('unreadable', `The WAVE file says that its blocks have ${layout.blockBytes} bytes, too few for ${layout.codec}.`)
  const reader = new ByteReader(bytes, 'WAVE file')
  const out = Array.from({ length: layout.channelCount }, () => new Float32Array(frames))
  for (let at = 0, frame = 0; frame < frames; at += layout.blockBytes) {
    const block = { reader, at, bytes: Math.min(layout.blockBytes, bytes.length - at) }
    decode(block, layout, out, frame)
    frame += framesOfBlock(block.bytes, layout)
  }
  return out
}

function decodeImaBlock({ reader, at, bytes }: Block, { channelCount }: AdpcmLayout, out: readonly Float32Array[], frame: number): void {
  const groups = Math.floor((bytes - 4 * channelCount) / (4 * channelCount))
  for (const [channel, samples] of out.entries()) {
    const header = at + 4 * channel
    const state = startOfIma(reader.i16(header, true), reader.u8(header + 2))
    put(samples, frame, state.value)
    for (let group = 0; group < groups; group++) {
      const from = at + 4 * channelCount * (group + 1) + 4 * channel
      for (let nibble = 0; nibble < 8; nibble++) {
        const code = reader.u8(from + (nibble >> 1)) >> (nibble % 2 * 4) & 15
        put(samples, frame + 1 + group * 8 + nibble, imaStep(state, code))
      }
    }
  }
}

const MS_STEP_FACTORS = [230, 230, 230, 230, 307, 409, 512, 614, 768, 614, 512, 409, 307, 230, 230, 230]
const MS_LEAST_STEP = 16

function decodeMsBlock({ reader, at, bytes }: Block, { channelCount, factors }: AdpcmLayout, out: readonly Float32Array[], frame: number): void {
  const coded = Math.floor((bytes - 7 * channelCount) * 2 / channelCount)
  for (const [channel, samples] of out.entries()) {
    const pair = factors[reader.u8(at + channel)]
    if (!pair) throw new EmporionError('unreadable', `The WAVE file asks for factors ${reader.u8(at + channel)} of MS ADPCM, and has ${factors.length}: it is damaged.`)
    const number = (place: number) => reader.i16(at + channelCount * (1 + 2 * place) + 2 * channel, true)
    let [step, last, before] = [number(0), number(1), number(2)]
    put(samples, frame, before)
    put(samples, frame + 1, last)
    for (let i = 0; i < coded; i++) {
      const place = i * channelCount + channel
      const code = reader.u8(at + 7 * channelCount + (place >> 1)) >> (place % 2 === 0 ? 4 : 0) & 15
      const value = clampedTo16((last * pair[0] + before * pair[1] >> 8) + (code < 8 ? code : code - 16) * step)
      before = last
      last = value
      step = Math.max(MS_LEAST_STEP, MS_STEP_FACTORS[code]! * step >> 8)
      put(samples, frame + 2 + i, value)
    }
  }
}

function put(samples: Float32Array, frame: number, value: number): void {
  if (frame < samples.length) samples[frame] = value / 0x8000
}
