import { ByteReader } from '../audio/bytes'
import { EmporionError } from '../errors'

/** Bytes of any length, read piece by piece: a file that is not loaded whole. */
export interface ByteSource {
  readonly size: number
  /** Exactly so many bytes. @throws EmporionError `unreadable` past the end */
  readonly read: (offset: number, length: number) => Promise<Uint8Array>
}

/** That a file is shorter than its header has it. */
export function endsTooSoon(size: number, end: number): EmporionError {
  return new EmporionError('unreadable', `The file ends at byte ${size}, before byte ${end} that its header gives.`)
}

/** Bytes in memory as a source. */
export function memorySource(bytes: Uint8Array): ByteSource {
  return {
    size: bytes.length,
    read: (offset, length) => offset >= 0 && length >= 0 && offset + length <= bytes.length
      ? Promise.resolve(bytes.subarray(offset, offset + length))
      : Promise.reject(endsTooSoon(bytes.length, offset + length)),
  }
}

/** A chunk by its place in a file. */
export interface PlacedChunk {
  readonly id: string
  /** Of a `LIST` or `RIFF` chunk its type, otherwise empty. */
  readonly type: string
  /** Where its contents begin, after the type of a list. */
  readonly offset: number
  /** Bytes of its contents. */
  readonly size: number
}

const MOST_CHUNKS = 200_000

/**
 * The chunks between two places of a source, each with its header read and no more. A chunk that speaks of more than is
 * there ends where its parent does. Source: IBM/Microsoft Multimedia Programming Interface 1.0 (1991), "RIFF".
 */
export async function chunksOf(source: ByteSource, from: number, to: number, budget = { left: MOST_CHUNKS }): Promise<PlacedChunk[]> {
  const found: PlacedChunk[] = []
  for (let at = from; at + 8 <= to;) {
    if (--budget.left < 0) throw new EmporionError('limit', `The file has more than ${MOST_CHUNKS} chunks.`)
    const head = new ByteReader(await source.read(at, Math.min(12, to - at)), 'chunk')
    const id = head.fourCC(0)
    const stated = head.u32(4, true)
    const size = Math.min(stated, to - at - 8)
    const isList = (id === 'LIST' || id === 'RIFF') && size >= 4
    found.push({ id, type: isList ? head.fourCC(8) : '', offset: at + (isList ? 12 : 8), size: isList ? size - 4 : size })
    at += 8 + size + size % 2
  }
  return found
}

/** The chunks of a list of one type; none where there is no such list. */
export async function chunksOfList(source: ByteSource, parents: readonly PlacedChunk[], type: string): Promise<PlacedChunk[]> {
  const list = parents.find(chunk => chunk.id === 'LIST' && chunk.type === type)
  return list ? chunksOf(source, list.offset, list.offset + list.size) : []
}

/** The chunks of a RIFF file of one form. @throws EmporionError `unreadable` when it is none */
export async function openRiff(source: ByteSource, form: string, what: string): Promise<PlacedChunk[]> {
  const [riff] = source.size >= 12 ? await chunksOf(source, 0, Math.min(source.size, 8 + 0xFFFF_FFFF)) : []
  if (riff?.id !== 'RIFF' || riff.type !== form) throw new EmporionError('unreadable', `This is no ${what}: it does not begin with RIFF and ${form.trim()}.`)
  return chunksOf(source, riff.offset, riff.offset + riff.size)
}

/** Puts numbers and texts one after the other, little-endian. */
export class ByteWriter {
  private bytes = new Uint8Array(256)
  private view = new DataView(this.bytes.buffer)
  private at = 0

  u8(value: number): this {
    const at = this.room(1)
    this.view.setUint8(at, value)
    return this
  }

  i8(value: number): this {
    const at = this.room(1)
    this.view.setInt8(at, value)
    return this
  }

  u16(...values: readonly number[]): this {
    const from = this.room(2 * values.length)
    values.forEach((value, i) => this.view.setUint16(from + 2 * i, value, true))
    return this
  }

  i16(...values: readonly number[]): this {
    const from = this.room(2 * values.length)
    values.forEach((value, i) => this.view.setInt16(from + 2 * i, value, true))
    return this
  }

  u32(...values: readonly number[]): this {
    const from = this.room(4 * values.length)
    values.forEach((value, i) => this.view.setUint32(from + 4 * i, value >>> 0, true))
    return this
  }

  i32(...values: readonly number[]): this {
    const from = this.room(4 * values.length)
    values.forEach((value, i) => this.view.setInt32(from + 4 * i, value, true))
    return this
  }

  /** ASCII letters; other characters become `_`. Filled up with zeros to `length`, and cut to leave one. */
  text(text: string, length: number): this {
    const from = this.room(length)
    const ascii = text.replace(/[^ -~]/g, '_').slice(0, length - 1)
    for (let i = 0; i < ascii.length; i++) this.bytes[from + i] = ascii.charCodeAt(i)
    return this
  }

  get done(): Uint8Array {
    return this.bytes.slice(0, this.at)
  }

  private room(count: number): number {
    const from = this.at
    this.at += count
    if (this.at > this.bytes.length) {
      const grown = new Uint8Array(Math.max(this.at, this.bytes.length * 2))
      grown.set(this.bytes)
      this.bytes = grown
      this.view = new DataView(grown.buffer)
    }
    return from
  }
}

/** A chunk with its header, filled up to even length. */
export function chunkBytes(id: string, ...parts: readonly Uint8Array[]): Uint8Array {
  const size = parts.reduce((sum, part) => sum + part.length, 0)
  if (size > 0xFFFF_FFF0) throw new EmporionError('limit', 'The file would pass 4 GiB, where RIFF files end.')
  const out = new Uint8Array(8 + size + size % 2)
  for (let i = 0; i < 4; i++) out[i] = id.charCodeAt(i)
  new DataView(out.buffer).setUint32(4, size, true)
  let at = 8
  for (const part of parts) {
    out.set(part, at)
    at += part.length
  }
  return out
}

/** A list chunk (`LIST`, or `RIFF` for the whole file) of one type. */
export function listBytes(type: string, parts: readonly Uint8Array[], id = 'LIST'): Uint8Array {
  return chunkBytes(id, Uint8Array.from(type, letter => letter.charCodeAt(0)), ...parts)
}

/** A text as an INFO chunk has it: ended by a zero, of even length. */
export function infoBytes(id: string, text: string): Uint8Array {
  const plain = text.replace(/[^ -~]/g, '_').slice(0, 254)
  return chunkBytes(id, new ByteWriter().text(plain, plain.length + 1 + (plain.length + 1) % 2).done)
}
