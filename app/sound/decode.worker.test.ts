import { beforeEach, describe, expect, it, vi } from 'vitest'
import { writeWave } from '../../core/audio/wave/write'
import { parcelHead } from '../../core/parcel/parcels'
import type { DecodeAnswer, DecodeRequest } from './decode.worker'

/** A wave of so many frames at half scale. */
const wave = (frames: number, sampleRate = 48_000) => writeWave([new Float32Array(frames).fill(0.5)], sampleRate, { depth: 16 })
const request = (id: number, hash: string, engineRate: number | null = null): DecodeRequest => ({ id, url: `/api/audio/${hash}`, engineRate })

let ask: (requests: readonly DecodeRequest[]) => void
let answers: DecodeAnswer[]
let asked: string[]
/** What the server has, by hash; and after how many bytes it stops to send several at once. */
let files: Map<string, Uint8Array<ArrayBuffer>>
let breaksAfter: number

/** Answers as the server does, in pieces that respect no file's end. */
function serve(url: string, options?: { body?: string }): Response {
  const hashes = options?.body ? (JSON.parse(options.body) as { hashes: string[] }).hashes : undefined
  asked.push(hashes ? hashes.join(' ') : url)
  if (!hashes) {
    const file = files.get(url.slice('/api/audio/'.length))
    return file ? new Response(file) : new Response(JSON.stringify({ message: 'The file of this sound is not where it was.' }), { status: 404 })
  }
  const whole = Buffer.concat(hashes.flatMap((hash) => {
    const file = files.get(hash)
    return [parcelHead(file?.length ?? null), ...file ? [file] : []]
  }))
  const sent = whole.subarray(0, breaksAfter)
  return new Response(new ReadableStream<Uint8Array>({
    start(stream) {
      for (let at = 0; at < sent.length; at += 700) stream.enqueue(new Uint8Array(sent.subarray(at, at + 700)))
      if (sent.length < whole.length) stream.error(new TypeError('network error'))
      else stream.close()
    },
  }))
}

const answered = (count: number) => vi.waitFor(() => expect(answers).toHaveLength(count))
const lengths = () => answers.map(answer => 'sound' in answer ? [answer.id, answer.sound.frames] : [answer.id, answer.error])

beforeEach(async () => {
  answers = []
  asked = []
  files = new Map(['a', 'b', 'c'].map((hash, i) => [hash, new Uint8Array(wave((i + 1) * 1000))]))
  breaksAfter = Infinity
  vi.stubGlobal('self', {
    addEventListener: (_type: string, listener: (event: { data: readonly DecodeRequest[] }) => void) => ask = requests => listener({ data: requests }),
    postMessage: (answer: DecodeAnswer) => answers.push(answer),
  })
  vi.stubGlobal('fetch', async (url: string, options?: { body?: string }) => serve(url, options))
  vi.resetModules()
  await import('./decode.worker')
  return () => vi.unstubAllGlobals()
})

describe('the decoding worker', () => {
  it('fetches one sound by itself, with its outline', async () => {
    ask([request(1, 'a')])
    await answered(1)
    expect(asked).toEqual(['/api/audio/a'])
    expect(lengths()).toEqual([[1, 1000]])
    const { sound } = answers[0] as { sound: { channels: Float32Array[], outline: Int8Array } }
    expect(sound.channels[0]![500]).toBeCloseTo(0.5, 4)
    expect(sound.outline).toHaveLength(1600)
  })

  it('fetches several in one go, and answers each in its order', async () => {
    ask([request(1, 'c'), request(2, 'a'), request(3, 'b')])
    await answered(3)
    expect(asked).toEqual(['c a b'])
    expect(lengths()).toEqual([[1, 3000], [2, 1000], [3, 2000]])
  })

  it('makes them ready for the engine\'s rate where that is asked', async () => {
    files.set('slow', new Uint8Array(wave(24_000, 24_000)))
    ask([request(1, 'slow', 48_000)])
    await answered(1)
    const { sound } = answers[0] as { sound: { channels: Float32Array[], frames: number, sampleRate: number } }
    expect([sound.frames, sound.sampleRate]).toEqual([24_000, 24_000])
    expect(sound.channels[0]!.length).toBeGreaterThanOrEqual(48_000)
  })

  it('asks alone for what does not come along with the others, and says what is wrong with it', async () => {
    files.delete('b')
    ask([request(1, 'a'), request(2, 'b'), request(3, 'c')])
    await answered(3)
    expect(asked).toEqual(['a b c', '/api/audio/b'])
    expect(lengths()).toEqual([[1, 1000], [2, 'The file of this sound is not where it was.'], [3, 3000]])
  })

  it('goes on one by one where the answer breaks off in the middle of a file', async () => {
    breaksAfter = files.get('a')!.length + 900
    ask([request(1, 'a'), request(2, 'b'), request(3, 'c')])
    await answered(3)
    expect(asked.slice(-2)).toEqual(['/api/audio/b', '/api/audio/c'])
    expect(new Map(lengths() as [number, number][])).toEqual(new Map([[1, 1000], [2, 2000], [3, 3000]]))
  })

  it('a file that cannot be read does not keep the others from coming', async () => {
    files.set('b', new TextEncoder().encode('no audio at all'))
    ask([request(1, 'a'), request(2, 'b'), request(3, 'c')])
    await answered(3)
    expect(lengths().map(([, output]) => typeof output)).toEqual(['number', 'string', 'number'])
  })
})
