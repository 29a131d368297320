import { decodeAudio } from '~~/core/audio/decode'
import { waveformOverview } from '~~/core/audio/overview'
import { messageOf } from '~~/core/errors'
import { readParcels } from '~~/core/parcel/parcels'
import { prepareSound } from '~~/core/render/prepare'
import { SOUNDS_URL } from '~~/contract/soundsUrl'

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

self.addEventListener('message', (event: MessageEvent<readonly DecodeRequest[]>) => void answerAll(event.data))

/** Answers each request as soon as it is decoded. */
async function answerAll(requests: readonly DecodeRequest[]): Promise<void> {
  const left = [...requests]
  if (requests.length > 1) {
    try {
      for await (const file of fetchTogether(requests)) {
        const request = left[0]!
        await answer(request, () => file ?? fetchAlone(request))
        left.shift()
      }
    }
    catch {
      // The answer broke off: what is left is fetched one by one, and says by itself what is wrong with it.
    }
  }
  for (const request of left) await answer(request, () => fetchAlone(request))
}

async function answer({ id, engineRate }: DecodeRequest, fetchFile: () => Uint8Array | Promise<Uint8Array>): Promise<void> {
  try {
    const sound = await decode(await fetchFile(), engineRate)
    self.postMessage({ id, sound } satisfies DecodeAnswer, { transfer: sound.channels.map(channel => channel.buffer) })
  }
  catch (thrown) {
    self.postMessage({ id, error: messageOf(thrown) } satisfies DecodeAnswer)
  }
}

/** The files of several sounds; null for one that the server does not send along with others. */
async function* fetchTogether(requests: readonly DecodeRequest[]): AsyncGenerator<Uint8Array | null> {
  const hashes = requests.map(({ url }) => url.slice(SOUNDS_URL.length + 1))
  const response = await fetch(SOUNDS_URL, { method: 'POST', body: JSON.stringify({ hashes }) })
  if (response.ok && response.body) yield* readParcels(chunksOf(response.body))
}

async function* chunksOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = body.getReader()
  for (;;) {
    const { done, value } = await reader.read()
    if (done) return
    yield value
  }
}

async function fetchAlone({ url }: DecodeRequest): Promise<Uint8Array> {
  const response = await fetch(url)
  if (!response.ok) {
    const failure = await response.json().catch(() => ({})) as { message?: string }
    throw new Error(failure.message ?? 'The sound could not be fetched from Emporion\'s server.')
  }
  return new Uint8Array(await response.arrayBuffer())
}

async function decode(file: Uint8Array, engineRate: number | null): Promise<DecodedSound> {
  const audio = await decodeAudio(file)
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
