import { AIFF_TAG_CHUNK, iffChunks, isAiff } from './aiff/read'
import { ByteReader } from './bytes'
import { isFlac, isMpeg, isOgg } from './compressed'
import type { FileTags } from './decoded'
import { behindTag } from './id3'
import { isWave } from './wave/read'
import { riffChunks, WAVE_TAG_CHUNKS } from './wave/chunks'

const TEXTS = ['title', 'artist', 'album', 'genre', 'grouping', 'comment', 'description', 'subtitle', 'mood', 'keywords'] as const

/**
 * Reads ID3 tags (MP3, and as a chunk in WAVE and AIFF) and Vorbis comments (FLAC, Ogg). Never throws: tags that can't be
 * read are none. Formats by the package `music-metadata`: ID3v2.4 (id3.org), Vorbis I comment field.
 */
export async function readTags(bytes: Uint8Array): Promise<FileTags | undefined> {
  const mimeType = tagged(bytes)
  if (!mimeType) return undefined
  try {
    const { parseBuffer } = await import('music-metadata')
    const { common } = await parseBuffer(bytes, { mimeType, size: bytes.length }, { duration: false, skipCovers: true })
    const texts = TEXTS.flatMap((name) => {
      const text = plain(common[name])
      return text ? [[name, text] as const] : []
    })
    const bpm = common.bpm !== undefined && common.bpm >= 20 && common.bpm <= 400 ? common.bpm : undefined
    if (texts.length === 0 && bpm === undefined && !common.key) return undefined
    return { texts: Object.fromEntries(texts), ...(bpm !== undefined ? { bpm } : {}), ...(common.key ? { key: common.key } : {}) }
  }
  catch {
    return undefined
  }
}

/** The type of a file that may have such tags; they are looked for only there. */
function tagged(bytes: Uint8Array): string | undefined {
  if (isWave(bytes)) return hasChunk(riffChunks(new ByteReader(bytes, 'file'), 12), WAVE_TAG_CHUNKS) ? 'audio/wav' : undefined
  if (isAiff(bytes)) return hasChunk(iffChunks(new ByteReader(bytes, 'file')), [AIFF_TAG_CHUNK]) ? 'audio/aiff' : undefined
  if (isFlac(behindTag(bytes))) return 'audio/flac'
  if (isOgg(bytes)) return 'audio/ogg'
  // Whatever container lies behind it.
  return behindTag(bytes) !== bytes || isMpeg(bytes) ? 'audio/mpeg' : undefined
}

function hasChunk(chunks: readonly { readonly id: string }[], ids: readonly string[]): boolean {
  return chunks.some(chunk => ids.includes(chunk.id))
}

function plain(value: unknown): string {
  const parts = (Array.isArray(value) ? value : [value]).map((part: unknown) => typeof part === 'object' && part !== null && 'text' in part ? part.text : part)
  return parts.filter(part => typeof part === 'string').join('; ').trim()
}
