import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { DecodeRequest } from '../workers/decode.worker'

/** Stands in for the browser's workers: answers only when told to. */
class FakeWorker {
  static all: FakeWorker[] = []
  static asked: { worker: FakeWorker, request: DecodeRequest }[] = []
  private listener: ((event: { data: unknown }) => void) | undefined

  constructor() {
    FakeWorker.all.push(this)
  }

  addEventListener(_type: string, listener: (event: { data: unknown }) => void): void {
    this.listener = listener
  }

  postMessage(request: DecodeRequest): void {
    FakeWorker.asked.push({ worker: this, request })
  }

  answer(data: unknown): void {
    this.listener?.({ data })
  }
}

const asked = () => FakeWorker.asked.map(({ request }) => request.url)
const answer = (place: number) => FakeWorker.asked[place]!.worker.answer({ id: FakeWorker.asked[place]!.request.id, sound: { frames: place } })

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
    const { decodeUrl, dropAheadBut } = await decoder()
    void decodeUrl('a', null, 'ahead')
    void decodeUrl('b', null, 'ahead')
    const far = decodeUrl('far', null, 'ahead')
    void decodeUrl('near', null, 'ahead')
    void decodeUrl('wanted', null, 'now')
    dropAheadBut(new Set(['near']))
    await expect(far).rejects.toMatchObject({ code: 'cancelled' })
    answer(0)
    answer(1)
    expect(asked()).toEqual(['a', 'b', 'wanted', 'near'])
  })

  it('goes on after a sound that could not be decoded', async () => {
    const { decodeUrl } = await decoder()
    const broken = decodeUrl('broken', null)
    FakeWorker.asked[0]!.worker.answer({ id: FakeWorker.asked[0]!.request.id, error: 'The file is empty.' })
    await expect(broken).rejects.toMatchObject({ code: 'unreadable', message: 'The file is empty.' })
    const next = decodeUrl('next', null)
    answer(1)
    expect(await next).toEqual({ frames: 1 })
  })
})
