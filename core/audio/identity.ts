import type { DecodedAudio } from './decoded'
import { plainPieces } from './sweep'

const isLittleEndian = new Uint8Array(Uint16Array.of(1).buffer)[0] === 1

/**
 * The bytes whose SHA-256 is a sound's identity: the shape of the audio, then every channel's samples as
 * 32-bit little-endian floats, negative zero as zero. One recording has one identity in whatever lossless
 * container and under whatever name it lies. Pieces are reused: hash one before asking for the next.
 */
export function* identityBytes(audio: Pick<DecodedAudio, 'channels' | 'sampleRate' | 'frames'>): Generator<Uint8Array> {
  yield new TextEncoder().encode(`emporion sound 1\n${audio.channels.length} ${audio.sampleRate} ${audio.frames}\n`)
  for (const channel of audio.channels) {
    for (const piece of plainPieces(channel)) {
      const bytes = new Uint8Array(piece.buffer, piece.byteOffset, piece.byteLength)
      if (!isLittleEndian) swapBytes(bytes)
      yield bytes
    }
  }
}

function swapBytes(bytes: Uint8Array): void {
  for (let i = 0; i < bytes.length; i += 4) bytes.subarray(i, i + 4).reverse()
}
