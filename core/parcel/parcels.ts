import { EmporionError } from '../errors'

/**
 * Several files in one stream of bytes, one after the other: of each its length in bytes as 32 bits, the lowest first, then its
 * bytes. A length of all ones says that a file is not there, and no bytes follow. Our own, between the server and its page.
 */
const HEAD_BYTES = 4
const NOT_THERE = 0xFFFFFFFF

/** The longest file that a parcel can hold. */
export const LONGEST_PARCEL_BYTES = NOT_THERE - 1

/**
 * What goes before the bytes of a file.
 *
 * @param bytes its length; null when it is not there
 * @throws RangeError when it is longer than a parcel can say
 */
export function parcelHead(bytes: number | null): Uint8Array {
  if (bytes !== null && (!Number.isInteger(bytes) || bytes < 0 || bytes > LONGEST_PARCEL_BYTES)) throw new RangeError(`A parcel can't hold ${bytes} bytes.`)
  const head = new Uint8Array(HEAD_BYTES)
  new DataView(head.buffer).setUint32(0, bytes ?? NOT_THERE, true)
  return head
}

/**
 * Takes files out of a stream as they arrive, however it is cut into chunks.
 *
 * @returns the bytes of each, in memory of its own; null for one that is not there
 * @throws EmporionError `broken` when the stream ends within a file
 */
export async function* readParcels(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array | null> {
  let wanted = new Uint8Array(HEAD_BYTES)
  let isHead = true
  let filled = 0
  for await (const chunk of chunks) {
    for (let at = 0; at < chunk.length;) {
      const part = chunk.subarray(at, at + wanted.length - filled)
      wanted.set(part, filled)
      filled += part.length
      at += part.length
      if (filled < wanted.length) continue
      const bytes: number | undefined = isHead ? new DataView(wanted.buffer).getUint32(0, true) : undefined
      if (bytes === undefined) yield wanted
      else if (bytes === NOT_THERE) yield null
      else if (bytes === 0) yield new Uint8Array(0)
      isHead = bytes === undefined || bytes === NOT_THERE || bytes === 0
      wanted = new Uint8Array(isHead ? HEAD_BYTES : bytes!)
      filled = 0
    }
  }
  if (filled > 0 || !isHead) throw new EmporionError('broken', 'What Emporion\'s server sent ended too early.')
}
