import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { renameKit, setPads } from '~~/core/kit/edits'
import { emptyKit, wholeLayer, type Kit } from '~~/core/kit/document'
import { record, redo, startHistory, stepBy, undo, type History } from '~~/core/document/history'
import { flushHistories, forgetHistory, keepHistory, KIT_HISTORIES, recallHistory } from './histories'

const written = vi.hoisted(() => new Map<string, unknown>())

vi.mock('idb-keyval', () => ({
  // What is written is a copy, as a database's would be.
  set: (key: string, value: unknown) => Promise.resolve(void written.set(key, structuredClone(value))),
  get: (key: string) => Promise.resolve(structuredClone(written.get(key))),
  del: (key: string) => Promise.resolve(void written.delete(key)),
  keys: () => Promise.resolve([...written.keys()]),
}))

const REST_MS = 800
const lastWords = new Map<string, string>()
const layer = wholeLayer({ id: 'b'.repeat(64), name: 'Hull', frames: 1000, sampleRate: 44_100, channels: 1 })

/** A kit that was renamed so often. */
function renamed(times: number): History<Kit> {
  let history = startHistory(emptyKit('Start'))
  for (let i = 1; i <= times; i++) history = record(history, renameKit(history.present, `Name ${i}`), `rename ${i}`)
  return history
}

async function rest(): Promise<void> {
  await vi.advanceTimersByTimeAsync(REST_MS)
}

beforeEach(() => {
  written.clear()
  lastWords.clear()
  vi.stubGlobal('localStorage', { getItem: (key: string) => lastWords.get(key) ?? null, setItem: (key: string, text: string) => lastWords.set(key, text), removeItem: (key: string) => lastWords.delete(key) })
  vi.useFakeTimers()
  vi.stubGlobal('indexedDB', {})
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('the steps of a document', () => {
  it('come back after a reload, those that were undone as well', async () => {
    const history = undo(undo(renamed(5)))
    keepHistory(KIT_HISTORIES, 'one', history)
    await rest()
    const back = await recallHistory(KIT_HISTORIES, 'one', structuredClone(history.present))
    expect([back.past.length, back.future.length, back.present.name]).toEqual([3, 2, 'Name 3'])
    expect(stepBy(back, -3).present.name).toBe('Start')
    expect(redo(redo(back)).present.name).toBe('Name 5')
    expect(back.past.map(step => step.label)).toEqual(['rename 1', 'rename 2', 'rename 3'])
  })

  it('are there after a page that closed at once, even where its database was not done', async () => {
    const history = renamed(3)
    keepHistory(KIT_HISTORIES, 'kit', history)
    flushHistories()
    written.clear()
    const recalled = await recallHistory(KIT_HISTORIES, 'kit', history.present)
    expect(undo(recalled).present.name).toBe('Name 2')
    expect(lastWords.size).toBe(0)
  })

  it('are written once for many edits, a moment after the last', async () => {
    for (let i = 1; i < 6; i++) {
      keepHistory(KIT_HISTORIES, 'one', renamed(i))
      await vi.advanceTimersByTimeAsync(REST_MS - 1)
      expect(written.size).toBe(0)
    }
    await rest()
    expect((await recallHistory(KIT_HISTORIES, 'one', renamed(5).present)).past).toHaveLength(5)
  })

  it('begin anew where the document is in another state than they end in', async () => {
    keepHistory(KIT_HISTORIES, 'one', renamed(3))
    await rest()
    const other = renameKit(renamed(3).present, 'Changed elsewhere')
    expect(await recallHistory(KIT_HISTORIES, 'one', other)).toEqual(startHistory(other))
    expect(await recallHistory(KIT_HISTORIES, 'never kept', other)).toEqual(startHistory(other))
  })

  it('are cut off at the far end where there is too much to write at once', async () => {
    let history = startHistory(emptyKit('Start'))
    const all = history.present.pads.map((_, i) => i)
    history = record(history, { ...history.present, pads: history.present.pads.map(pad => ({ ...pad, layers: Array.from({ length: 10 }, () => layer) })) }, 'fill')
    for (let i = 1; i <= 60; i++) history = record(history, setPads(history.present, all, { gainDb: -i / 10 }), `gain ${i}`)
    keepHistory(KIT_HISTORIES, 'large', history)
    await rest()
    const back = await recallHistory(KIT_HISTORIES, 'large', history.present)
    expect(back.past.length).toBeGreaterThan(5)
    expect(back.past.length).toBeLessThan(60)
    expect(back.past.at(-1)!.label).toBe('gain 60')
    expect(undo(back).present).toEqual(undo(history).present)
  })

  it('are forgotten with the document, also when they were about to be written', async () => {
    keepHistory(KIT_HISTORIES, 'one', renamed(2))
    await rest()
    keepHistory(KIT_HISTORIES, 'one', renamed(3))
    forgetHistory(KIT_HISTORIES, 'one')
    await rest()
    expect(written.size).toBe(0)
  })

  it('are kept of the twelve documents that were edited last', async () => {
    for (let i = 0; i < 15; i++) {
      keepHistory(KIT_HISTORIES, `kit ${i}`, renamed(1))
      await rest()
    }
    await vi.advanceTimersByTimeAsync(0)
    expect([...written.keys()].sort()).toEqual(Array.from({ length: 12 }, (_, i) => `${KIT_HISTORIES.prefix}kit ${i + 3}`).sort())
  })

  it('are not missed where a browser keeps nothing', async () => {
    vi.stubGlobal('indexedDB', undefined)
    keepHistory(KIT_HISTORIES, 'one', renamed(2))
    await rest()
    expect(written.size).toBe(0)
    expect((await recallHistory(KIT_HISTORIES, 'one', renamed(2).present)).past).toEqual([])
  })
})
