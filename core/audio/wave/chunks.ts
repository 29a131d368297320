import type { ByteReader } from '../bytes'
import type { CuePoint, EmbeddedData, StatedLoop } from '../decoded'
import { MOST_CHUNKS } from '../limits'

/** One RIFF chunk: where its body starts and how much of it is really there. */
export interface Chunk {
  readonly id: string
  readonly offset: number
  /** Bytes of body that can be read. */
  readonly size: number
  /** The size its header states, which may be wrong. */
  readonly statedSize: number
}

/** Chunks of WAVE with an ID3 tag in them. */
export const WAVE_TAG_CHUNKS: readonly string[] = ['id3 ', 'ID3 ']

/**
 * Walks the chunks of a RIFF file. Tolerates what real files have: sizes past the end (cut to what is
 * there), a data size of 0 left by an interrupted recorder, odd chunks without their pad byte, and junk
 * behind the last chunk. Source: IBM/Microsoft Multimedia Programming Interface 1.0 (1991), "RIFF".
 */
export function riffChunks(reader: ByteReader, start: number): Chunk[] {
  const chunks: Chunk[] = []
  let offset = start
  while (chunks.length < MOST_CHUNKS && reader.has(offset, 8) && looksLikeChunk(reader, offset)) {
    const id = reader.fourCC(offset)
    const body = offset + 8
    const statedSize = id === 'data' ? largeDataSize(reader, chunks, reader.u32(offset + 4, true)) : reader.u32(offset + 4, true)
    const rest = reader.length - body
    const unfinished = id === 'data' && statedSize === 0 && rest > 0 && !looksLikeChunk(reader, body)
    const size = unfinished ? rest : Math.min(statedSize, rest)
    chunks.push({ id, offset: body, size, statedSize })
    offset = nextChunk(reader, body + size, size)
  }
  return chunks
}

const IN_DS64 = 0xFFFF_FFFF

/** The size of the data where 32 bits can't state it: then `ds64` does, 8 bytes behind its beginning. Source: EBU Tech 3306; ITU-R BS.2088. */
function largeDataSize(reader: ByteReader, before: readonly Chunk[], stated: number): number {
  const ds64 = stated === IN_DS64 ? before.find(chunk => chunk.id === 'ds64' && chunk.size >= 16) : undefined
  if (!ds64) return stated
  const size = reader.u32(ds64.offset + 8, true) + reader.u32(ds64.offset + 12, true) * 2 ** 32
  return size > 0 ? size : stated
}

function nextChunk(reader: ByteReader, end: number, size: number): number {
  if (size % 2 === 0) return end
  return looksLikeChunk(reader, end + 1) || !looksLikeChunk(reader, end) ? end + 1 : end
}

function looksLikeChunk(reader: ByteReader, offset: number): boolean {
  if (!reader.has(offset, 8)) return false
  for (let i = 0; i < 4; i++) {
    const c = reader.u8(offset + i)
    if (c < 0x20 || c > 0x7E) return false
  }
  return true
}

/** Collects what the chunks beside `fmt ` and `data` say. Chunks that are too short are passed over. */
export function embeddedFrom(reader: ByteReader, chunks: readonly Chunk[]): EmbeddedData {
  const found: { -readonly [K in keyof EmbeddedData]: EmbeddedData[K] } = {}
  const labels = new Map<number, string>()
  for (const chunk of chunks) {
    if (chunk.id === 'smpl') Object.assign(found, readSmpl(reader, chunk))
    else if (chunk.id === 'inst') Object.assign(found, readInst(reader, chunk, found))
    else if (chunk.id === 'cue ') found.cues = readCues(reader, chunk)
    else if (chunk.id === 'LIST') readList(reader, chunk, found, labels)
  }
  if (found.cues && labels.size > 0) {
    found.cues = found.cues.map(cue => labels.has(cue.id) ? { ...cue, label: labels.get(cue.id) } : cue)
  }
  return found
}

function readSmpl(reader: ByteReader, chunk: Chunk): EmbeddedData {
  if (chunk.size < 36) return {}
  const at = chunk.offset
  const rootNote = reader.u32(at + 12, true)
  const fraction = reader.u32(at + 16, true)
  const loopCount = Math.min(reader.u32(at + 28, true), Math.floor((chunk.size - 36) / 24))
  const loops: StatedLoop[] = []
  for (let i = 0; i < loopCount; i++) {
    const loop = at + 36 + i * 24
    loops.push({ startFrame: reader.u32(loop + 8, true), endFrame: reader.u32(loop + 12, true), count: reader.u32(loop + 20, true) })
  }
  return {
    ...(rootNote <= 127 ? { rootNote, rootCents: fraction / 2 ** 32 * 100 } : {}),
    ...(loops.length > 0 ? { loops } : {}),
  }
}

function readInst(reader: ByteReader, chunk: Chunk, known: EmbeddedData): EmbeddedData {
  if (chunk.size < 7) return {}
  const at = chunk.offset
  return {
    ...(known.rootNote === undefined ? { rootNote: reader.u8(at) & 0x7F, rootCents: reader.i8(at + 1) } : {}),
    gainDb: reader.i8(at + 2),
    lowNote: reader.u8(at + 3) & 0x7F,
    highNote: reader.u8(at + 4) & 0x7F,
    lowVelocity: reader.u8(at + 5) & 0x7F,
    highVelocity: reader.u8(at + 6) & 0x7F,
  }
}

function readCues(reader: ByteReader, chunk: Chunk): CuePoint[] {
  if (chunk.size < 4) return []
  const count = Math.min(reader.u32(chunk.offset, true), Math.floor((chunk.size - 4) / 24))
  return Array.from({ length: count }, (_, i) => {
    const at = chunk.offset + 4 + i * 24
    return { id: reader.u32(at, true), frame: reader.u32(at + 20, true) }
  })
}

function readList(reader: ByteReader, list: Chunk, found: { info?: EmbeddedData['info'] }, labels: Map<number, string>): void {
  if (list.size < 4) return
  const type = reader.fourCC(list.offset)
  const end = list.offset + list.size
  for (const chunk of riffChunks(reader, list.offset + 4)) {
    if (chunk.offset + chunk.size > end) break
    if (type === 'INFO') {
      const text = reader.text(chunk.offset, chunk.size)
      if (text) found.info = { ...found.info, [chunk.id]: text }
    }
    else if (type === 'adtl' && chunk.id === 'labl' && chunk.size > 4) {
      labels.set(reader.u32(chunk.offset, true), reader.text(chunk.offset + 4, chunk.size - 4))
    }
  }
}
