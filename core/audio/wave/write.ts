import { EmporionError } from '../../errors'
import type { EmbeddedData } from '../decoded'

/** How samples are stored: integers of so many bits, or 32-bit float. */
export type WaveDepth = 8 | 16 | 24 | 32 | 'float'

export interface WaveOptions {
  readonly depth: WaveDepth
  /** Written as `smpl`, `cue ` and `LIST/INFO` where present. */
  readonly embedded?: EmbeddedData
  /** As PCM where EXTENSIBLE would be asked for, of one or two channels: what many devices read alone. */
  readonly isPlain?: boolean
  /** Added to a sample, in units of the last bit, before it is rounded (see `dither.ts`). */
  readonly dither?: () => number
}

/**
 * Writes a WAVE file. Integers are rounded to nearest and held at full scale, never wrapped; more than two
 * channels or more than 16 bits are written as EXTENSIBLE, as the specification asks.
 * Sources: IBM/Microsoft Multimedia Programming Interface 1.0 (1991) and its New Multimedia Data Types (1994) for what is not
 * PCM; Microsoft WAVEFORMATEXTENSIBLE.
 *
 * @param channels one array a channel, all of one length, full scale at +-1
 * @throws EmporionError `limit` when the file would pass 4 GiB
 */
export function writeWave(channels: readonly Float32Array[], sampleRate: number, options: WaveOptions): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const extra = embeddedChunks(options.embedded)
  const start = waveStart({ channelCount: channels.length, frames, sampleRate, depth: options.depth, isPlain: options.isPlain, extraBytes: extra.reduce((sum, chunk) => sum + chunk.length, 0) })
  const samples = encodeFrames(channels, options)
  const padding = new Uint8Array(samples.length % 2)
  const out = new Uint8Array(start.length + samples.length + padding.length + extra.reduce((sum, chunk) => sum + chunk.length, 0))
  let at = 0
  for (const part of [start, samples, padding, ...extra]) {
    out.set(part, at)
    at += part.length
  }
  return out
}

/** What a WAVE file is to hold. */
export interface WaveShape {
  readonly channelCount: number
  readonly frames: number
  readonly sampleRate: number
  readonly depth: WaveDepth
  readonly isPlain?: boolean
  /** Bytes of chunks that come after the samples. */
  readonly extraBytes?: number
}

/**
 * The beginning of a WAVE file, up to its first sample, for files that are written piece by piece: the samples follow
 * (`encodeFrames`), and one byte more where their bytes are odd in number. Sources as at `writeWave`.
 *
 * @throws EmporionError `limit` when the file would pass 4 GiB
 */
export function waveStart({ channelCount, frames, sampleRate, depth, isPlain = false, extraBytes = 0 }: WaveShape): Uint8Array {
  const dataBytes = frames * channelCount * (depth === 'float' ? 4 : depth / 8)
  const head = [formatChunk(channelCount, sampleRate, depth, isPlain), ...depth === 'float' ? [factChunk(frames)] : []]
  const headBytes = head.reduce((sum, part) => sum + part.length, 0)
  const total = 12 + headBytes + 8 + dataBytes + dataBytes % 2 + extraBytes
  if (total > 0xFFFF_FFFF) throw new EmporionError('limit', 'The audio is too long for a WAVE file, which ends at 4 GiB.')
  const out = new Uint8Array(12 + headBytes + 8)
  const view = new DataView(out.buffer)
  putText(out, 0, 'RIFF')
  view.setUint32(4, total - 8, true)
  putText(out, 8, 'WAVE')
  let at = 12
  for (const part of head) {
    out.set(part, at)
    at += part.length
  }
  putText(out, at, 'data')
  view.setUint32(at + 4, dataBytes, true)
  return out
}

/** Samples as a WAVE file holds them, the channels of each frame together. */
export function encodeFrames(channels: readonly Float32Array[], options: Pick<WaveOptions, 'depth' | 'dither'>): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const out = new Uint8Array(frames * channels.length * (options.depth === 'float' ? 4 : options.depth / 8))
  writeSamples(new DataView(out.buffer), 0, channels, options)
  return out
}

function formatChunk(channelCount: number, sampleRate: number, depth: WaveDepth, isPlain: boolean): Uint8Array {
  const bits = depth === 'float' ? 32 : depth
  const tag = depth === 'float' ? 3 : 1
  const extensible = channelCount > 2 || (tag === 1 && bits > 16 && !isPlain)
  // All but PCM say how much more they say, though that is nothing.
  const size = extensible ? 40 : depth === 'float' ? 18 : 16
  const frameBytes = channelCount * bits / 8
  return chunk('fmt ', size, (view, at) => {
    view.setUint16(at, extensible ? 0xFFFE : tag, true)
    view.setUint16(at + 2, channelCount, true)
    view.setUint32(at + 4, sampleRate, true)
    view.setUint32(at + 8, sampleRate * frameBytes, true)
    view.setUint16(at + 12, frameBytes, true)
    view.setUint16(at + 14, bits, true)
    if (!extensible) return
    view.setUint16(at + 16, 22, true)
    view.setUint16(at + 18, bits, true)
    view.setUint32(at + 20, channelCount === 1 ? 4 : channelCount === 2 ? 3 : 0, true)
    // The tail that every KSDATAFORMAT_SUBTYPE shares: xxxx0000-0000-0010-8000-00AA00389B71.
    const guid = [tag, 0, 0, 0, 0, 0, 0x10, 0, 0x80, 0, 0, 0xAA, 0, 0x38, 0x9B, 0x71]
    guid.forEach((byte, i) => view.setUint8(at + 24 + i, byte))
  })
}

/** The number of frames, which all but PCM must state beside the size of their data. */
function factChunk(frames: number): Uint8Array {
  return chunk('fact', 4, (view, at) => view.setUint32(at, frames, true))
}

function writeSamples(view: DataView, start: number, channels: readonly Float32Array[], options: Pick<WaveOptions, 'depth' | 'dither'>): void {
  const frames = channels[0]?.length ?? 0
  if (options.depth === 'float') {
    let at = start
    for (let frame = 0; frame < frames; frame++) {
      for (const channel of channels) {
        view.setFloat32(at, channel[frame]!, true)
        at += 4
      }
    }
    return
  }
  const { depth, dither } = options
  const scale = 2 ** (depth - 1)
  const highest = scale - 1
  const bytes = depth / 8
  const step = bytes * channels.length
  const out = new Uint8Array(view.buffer, view.byteOffset)
  // 8 bit is unsigned.
  const offset = depth === 8 ? 128 : 0
  channels.forEach((channel, c) => {
    let place = start + c * bytes
    for (let frame = 0; frame < frames; frame++, place += step) {
      const value = Math.floor(channel[frame]! * scale + (dither === undefined ? 0.5 : dither() + 0.5))
      const held = (value < -scale ? -scale : value > highest ? highest : value) + offset | 0
      out[place] = held
      if (bytes === 1) continue
      out[place + 1] = held >> 8
      if (bytes === 2) continue
      out[place + 2] = held >> 16
      if (bytes === 4) out[place + 3] = held >> 24
    }
  })
}

function embeddedChunks(embedded: EmbeddedData | undefined): Uint8Array[] {
  if (!embedded) return []
  const chunks: Uint8Array[] = []
  if (embedded.rootNote !== undefined || embedded.loops?.length) chunks.push(smplChunk(embedded))
  if (embedded.cues?.length) chunks.push(cueChunk(embedded.cues))
  if (embedded.info && Object.keys(embedded.info).length > 0) chunks.push(infoChunk(embedded.info))
  return chunks
}

function smplChunk(embedded: EmbeddedData): Uint8Array {
  const loops = embedded.loops ?? []
  return chunk('smpl', 36 + loops.length * 24, (view, at) => {
    view.setUint32(at + 12, embedded.rootNote ?? 60, true)
    view.setUint32(at + 16, Math.round((embedded.rootCents ?? 0) / 100 * 2 ** 32) >>> 0, true)
    view.setUint32(at + 28, loops.length, true)
    loops.forEach((loop, i) => {
      const base = at + 36 + i * 24
      view.setUint32(base, i, true)
      view.setUint32(base + 8, loop.startFrame, true)
      view.setUint32(base + 12, loop.endFrame, true)
      view.setUint32(base + 20, loop.count, true)
    })
  })
}

function cueChunk(cues: NonNullable<EmbeddedData['cues']>): Uint8Array {
  return chunk('cue ', 4 + cues.length * 24, (view, at, out) => {
    view.setUint32(at, cues.length, true)
    cues.forEach((cue, i) => {
      const base = at + 4 + i * 24
      view.setUint32(base, cue.id, true)
      view.setUint32(base + 4, cue.frame, true)
      putText(out, base + 8, 'data')
      view.setUint32(base + 20, cue.frame, true)
    })
  })
}

function infoChunk(info: Readonly<Record<string, string>>): Uint8Array {
  const entries = Object.entries(info).map(([id, text]) => {
    const bytes = new TextEncoder().encode(`${text}\0`)
    return chunk(id, bytes.length, (_, at, out) => out.set(bytes, at))
  })
  const size = 4 + entries.reduce((sum, entry) => sum + entry.length, 0)
  return chunk('LIST', size, (_, at, out) => {
    putText(out, at, 'INFO')
    let offset = at + 4
    for (const entry of entries) {
      out.set(entry, offset)
      offset += entry.length
    }
  })
}

function chunk(id: string, size: number, fill: (view: DataView, at: number, out: Uint8Array) => void): Uint8Array {
  const out = new Uint8Array(8 + size + size % 2)
  const view = new DataView(out.buffer)
  putText(out, 0, id)
  view.setUint32(4, size, true)
  fill(view, 8, out)
  return out
}

function putText(out: Uint8Array, at: number, text: string): void {
  for (let i = 0; i < text.length; i++) out[at + i] = text.charCodeAt(i)
}
