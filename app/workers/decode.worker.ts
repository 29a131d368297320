import { decodeAudio } from '~~/core/audio/decode'
import { waveformOverview } from '~~/core/audio/overview'
import { messageOf } from '~~/core/errors'
import { prepareSound } from '~~/core/render/prepare'

/** What the page asks of a decoding worker. */
export interface DecodeRequest {
  readonly id: number
  readonly url: string
  /** When given, the channels come ready for an engine of this rate. */
  readonly engineRate: number | null
}

export type DecodeAnswer =
  | { readonly id: number, readonly sound: DecodedSound }
  | { readonly id: number, readonly error: string }

export interface DecodedSound {
  readonly channels: Float32Array<ArrayBuffer>[]
  /** Rate of the file, whatever the channels were made ready for. */
  readonly sampleRate: number
  readonly frames: number
  /** Outline for drawing, `OUTLINE_COLUMNS` pairs. */
  readonly outline: Int8Array<ArrayBuffer>
}

export const OUTLINE_COLUMNS = 800

self.addEventListener('message', (event: MessageEvent<DecodeRequest>) => void answer(event.data))

async function answer(request: DecodeRequest): Promise<void> {
  try {
    const sound = await decode(request)
    self.postMessage({ id: request.id, sound } satisfies DecodeAnswer, { transfer: sound.channels.map(channel => channel.buffer) })
  }
  catch (thrown) {
    self.postMessage({ id: request.id, error: messageOf(thrown) } satisfies DecodeAnswer)
  }
}

async function decode({ url, engineRate }: DecodeRequest): Promise<DecodedSound> {
  const response = await fetch(url)
  if (!response.ok) {
    const failure = await response.json().catch(() => ({})) as { message?: string }
    throw new Error(failure.message ?? 'The sound could not be fetched from Emporion\'s server.')
  }
  const audio = await decodeAudio(new Uint8Array(await response.arrayBuffer()))
  const channels = engineRate === null ? audio.channels : prepareSound(audio, engineRate).channels
  return {
    channels: channels.map(own),
    sampleRate: audio.sampleRate,
    frames: audio.frames,
    outline: new Int8Array(waveformOverview(audio.channels, OUTLINE_COLUMNS)),
  }
}

/** A copy in memory of its own, so that handing one over takes none of the others along. */
function own(channel: Float32Array): Float32Array<ArrayBuffer> {
  return new Float32Array(channel)
}
