import type { DecodedAudio } from './decoded'

/** Bytes in one piece handed to the hash. */
const PIECE_FRAMES = 1 << 16
const isLittleEndian = new Uint8Array(Uint16Array.of(1).buffer)[0] === 1

/**
 * The bytes whose SHA-256 is a sound's identity: the shape of the audio, then every channel's samples as
 * 32-bit little-endian floats, negative zero as zero. One recording has one identity in whatever lossless
 * container and under whatever name it lies. Pieces are reused: hash one before asking for the next.
 */
export function* identityBytes(audio: Pick<DecodedAudio, 'channels' | 'sampleRate' | 'frames'>): Generator<Uint8Array> {
  yield new TextEncoder().encode(`emporion sound 1\n${audio.channels.length} ${audio.sampleRate} ${audio.frames}\n`)
  const piece = new Float32Array(Math.min(PIECE_FRAMES, Math.max(1, audio.frames)))
  const bytes = new Uint8Array(piece.buffer)
  const bits = new Int32Array(piece.buffer)
  for (const channel of audio.channels) {
    for (let start = 0; start < audio.frames; start += PIECE_FRAMES) {
      const count = Math.min(PIECE_FRAMES, audio.frames - start)
      piece.set(channel.subarray(start, start + count))
      clearNegativeZeros(bits, count)
      if (!isLittleEndian) swapBytes(bytes, count)
      yield bytes.subarray(0, count * 4)
    }
  }
}

/** By their bits, which takes a third of the time that adding zero takes. */
function clearNegativeZeros(bits: Int32Array, count: number): void {
  for (let i = 0; i < count; i++) {
    if (bits[i] === -0x8000_0000) bits[i] = 0
  }
}

function swapBytes(bytes: Uint8Array, count: number): void {
  for (let i = 0; i < count * 4; i += 4) bytes.subarray(i, i + 4).reverse()
}
