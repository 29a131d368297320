import type { ByteReader } from './bytes'

/** Where a channel of IMA ADPCM has come to: its last sample of 16 bits, and the place of its step in the table. */
export interface ImaState {
  value: number
  index: number
}

const IMA_INDEX_STEPS = [-1, -1, -1, -1, 2, 4, 6, 8]
const IMA_STEPS = [
  7, 8, 9, 10, 11, 12, 13, 14, 16, 17, 19, 21, 23, 25, 28, 31, 34, 37, 41, 45, 50, 55, 60, 66, 73, 80, 88, 97, 107, 118, 130, 143, 157, 173, 190, 209, 230, 253, 279, 307,
  337, 371, 408, 449, 494, 544, 598, 658, 724, 796, 876, 963, 1060, 1166, 1282, 1411, 1552, 1707, 1878, 2066, 2272, 2499, 2749, 3024, 3327, 3660, 4026, 4428, 4871, 5358,
  5894, 6484, 7132, 7845, 8630, 9493, 10_442, 11_487, 12_635, 13_899, 15_289, 16_818, 18_500, 20_350, 22_385, 24_623, 27_086, 29_794, 32_767,
]


/** A channel as the header of its block puts it. */
export function startOfIma(value: number, index: number): ImaState {
  return { value, index: Math.min(index, IMA_STEPS.length - 1) }
}

/**
 * The sample of 16 bits that a code of four bits leads to; the state goes along.
 * Source: IMA Digital Audio Focus and Technical Working Groups, Recommended Practices 3.00 (1992), from memory.
 */
export function imaStep(state: ImaState, code: number): number {
  const step = IMA_STEPS[state.index]!
  const change = (step >> 3) + (code & 4 ? step : 0) + (code & 2 ? step >> 1 : 0) + (code & 1 ? step >> 2 : 0)
  state.value = clampedTo16(state.value + (code & 8 ? -change : change))
  state.index = Math.min(IMA_STEPS.length - 1, Math.max(0, state.index + IMA_INDEX_STEPS[code & 7]!))
  return state.value
}

export function clampedTo16(value: number): number {
  return Math.min(0x7FFF, Math.max(-0x8000, value))
}

/** Frames and bytes of a channel in each packet of `ima4`. */
export const IMA4_FRAMES = 64
export const IMA4_BYTES = 34
/** A header states the upper nine bits of the sample before; where it is as near as that, what was decoded goes on. */
const IMA4_HEADER_STEP = 0x80

/**
 * Decodes `ima4` of AIFF-C and CAF: packets of 34 bytes a channel, one channel after the other.
 * Source: Apple, Technical Note TN1081 (1996) and the QuickTime File Format, from memory; the tests hold it against `ffmpeg`.
 *
 * @param frames at most `IMA4_FRAMES` for each whole packet of all channels
 */
export function decodeIma4(reader: ByteReader, at: number, channelCount: number, frames: number): Float32Array[] {
  return Array.from({ length: channelCount }, (_, channel) => {
    const samples = new Float32Array(frames)
    let state: ImaState = { value: 0, index: -1 }
    for (let packet = 0; packet * IMA4_FRAMES < frames; packet++) {
      const from = at + (packet * channelCount + channel) * IMA4_BYTES
      const header = reader.i16(from, false)
      const stated = startOfIma(header & ~0x7F, header & 0x7F)
      if (stated.index !== state.index || Math.abs(stated.value - state.value) >= IMA4_HEADER_STEP) state = stated
      for (let i = 0; i < IMA4_FRAMES; i++) {
        const value = imaStep(state, reader.u8(from + 2 + (i >> 1)) >> (i % 2 * 4) & 15)
        if (packet * IMA4_FRAMES + i < frames) samples[packet * IMA4_FRAMES + i] = value / 0x8000
      }
    }
    return samples
  })
}
