import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { DecodeRequest } from './decode.worker'

/** Stands in for the browser's workers: answers only when told to. */
class FakeWorker {
  static all: FakeWorker[] = []
  static asked: { worker: FakeWorker, requests: readonly DecodeRequest[] }[] = []
  private listener: ((event: { data: unknown }) => void) | undefined

  constructor() {
    FakeWorker.all.push(this)
  }

  addEventListener(_type: string, listener: (event: { data: unknown }) => void): void {
    this.listener = listener
  }

  postMessage(requests: readonly DecodeRequest[]): void {
    FakeWorker.asked.push({ worker: this, requests })
  }

  answer(data: unknown): void {
    this.listener?.({ data })
  }
}

const asked = () => FakeWorker.asked.map(({ requests }) => requests.map(({ url }) => url).join(' '))
/** Answers one of the sounds that were asked for at a place in the order of asking. */
const answer = (place: number, which = 0) => FakeWorker.asked[place]!.worker.answer({ id: FakeWorker.asked[place]!.requests[which]!.id, sound: { frames: place } })

async function decoder() {
  vi.resetModules()
  return import('./decoder')
}

beforeEach(() => {
  FakeWorker.all = []
  FakeWorker.asked = []
  vi.stubGlobal('Worker', FakeWorker)
})

describe('the queue of sounds to decode', () => {
  it('decodes two sounds ahead at a time', async () => {
    const { decodeUrl } = await decoder()
    const sounds = ['a', 'b', 'c'].map(url => decodeUrl(url, null, 'ahead'))
    expect(asked()).toEqual(['a', 'b'])
    expect(FakeWorker.all).toHaveLength(3)
    answer(0)
    expect(asked()).toEqual(['a', 'b', 'c'])
    answer(2)
    answer(1)
    expect(await Promise.all(sounds)).toEqual([{ frames: 0 }, { frames: 1 }, { frames: 2 }])
  })

  it('has a worker free for what somebody waits for, and takes that before what is decoded ahead, the last asked for first', async () => {
    const { decodeUrl } = await decoder()
    for (const url of ['a', 'b', 'ahead 1', 'ahead 2']) void decodeUrl(url, null, 'ahead')
    expect(asked()).toEqual(['a', 'b'])
    for (const url of ['now 1', 'now 2', 'now 3']) void decodeUrl(url, null, 'now')
    expect(asked()).toEqual(['a', 'b', 'now 1'])
    for (let i = 0; i < 5; i++) answer(i)
    expect(asked()).toEqual(['a', 'b', 'now 1', 'now 3', 'now 2', 'ahead 1', 'ahead 2'])
  })

  it('hastens what was to be decoded ahead and is wanted now', async () => {
    const { decodeUrl, hasten } = await decoder()
    for (const url of ['a', 'b', 'c', 'd']) void decodeUrl(url, null, 'ahead')
    hasten('d')
    answer(0)
    expect(asked()).toEqual(['a', 'b', 'd'])
  })

  it('drops what is no longer near, but nothing that somebody waits for', async () => {
    const { decodeUrl, cancelAheadBut } = await decoder()
    void decodeUrl('a', null, 'ahead')
    void decodeUrl('b', null, 'ahead')
    const far = decodeUrl('far', null, 'ahead')
    void decodeUrl('near', null, 'ahead')
    void decodeUrl('wanted', null, 'now')
    cancelAheadBut(new Set(['near']))
    await expect(far).rejects.toMatchObject({ code: 'cancelled' })
    answer(0)
    answer(1)
    expect(asked()).toEqual(['a', 'b', 'wanted', 'near'])
  })

  it('asks for many of what is open in one go, in their order, and leaves a worker free', async () => {
    const { decodeUrl } = await decoder()
    // The first is sent when it is asked for, as nothing else is known yet.
    const urls = Array.from({ length: 40 }, (_, i) => `/api/audio/${i}`)
    const sounds = urls.map(url => decodeUrl(url, 48_000, 'soon'))
    expect(asked()).toEqual([urls[0], urls[1]])
    answer(0)
    expect(asked()[2]).toBe(urls.slice(2, 18).join(' '))
    void decodeUrl('now', null, 'now')
    expect(asked()[3]).toBe('now')
    for (let i = 0; i < 15; i++) answer(2, i)
    expect(asked()).toHaveLength(4)
    answer(2, 15)
    expect(asked()[4]).toBe(urls.slice(18, 34).join(' '))
    answer(1)
    answer(3)
    expect(asked()[5]).toBe(urls.slice(34).join(' '))
    for (let i = 0; i < 16; i++) answer(4, i)
    for (let i = 0; i < 6; i++) answer(5, i)
    expect((await Promise.all(sounds)).map(({ frames }) => frames)).toEqual([0, 1, ...Array.from({ length: 16 }, () => 2), ...Array.from({ length: 16 }, () => 4), ...Array.from({ length: 6 }, () => 5)])
  })

  it('asks alone for what is no sound of the library', async () => {
    const { decodeUrl } = await decoder()
    for (const url of ['/api/fit/1', '/api/audio/1', '/api/audio/2', '/api/fit/2']) void decodeUrl(url, null, 'soon')
    expect(asked()).toEqual(['/api/fit/1', '/api/audio/1'])
    answer(0)
    answer(1)
    expect(asked()).toEqual(['/api/fit/1', '/api/audio/1', '/api/audio/2', '/api/fit/2'])
  })

  it('goes on after a sound that could not be decoded', async () => {
    const { decodeUrl } = await decoder()
    const broken = decodeUrl('broken', null)
    FakeWorker.asked[0]!.worker.answer({ id: FakeWorker.asked[0]!.requests[0]!.id, error: 'The file is empty.' })
    await expect(broken).rejects.toMatchObject({ code: 'unreadable', message: 'The file is empty.' })
    const next = decodeUrl('next', null)
    answer(1)
    expect(await next).toEqual({ frames: 1 })
  })
})
