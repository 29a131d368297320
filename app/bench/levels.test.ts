import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { emptyKit, type Kit } from '../../core/kit/document'
import { placeSounds, setPads } from '../../core/kit/edits'
import { testSound } from '../../tests/helpers/kit'
import { kitServer } from '../../tests/helpers/kitServer'
import { freshStores, asRequest } from '../../tests/helpers/stores'
import type { LoadedSound } from '../sound/kitPlayer'
import { useKit } from './kit'
import { useLevels } from './levels'

let kits = kitServer()
/** What was asked to be rendered and measured. */
const measuring = vi.hoisted(() => ({ asked: [] as { kit: unknown, notes: readonly number[], resolve: (measured: unknown) => void, reject: (error: Error) => void }[], sound: undefined as ((id: string, state: unknown) => void) | undefined }))

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => kits.ask(...asRequest(...all)), toEmporionError: (thrown: unknown) => thrown }))
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: () => undefined, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ say: () => undefined, sayError: () => undefined }))
vi.mock('../sound/measurer', () => ({ measureKitHits: (kit: Kit, notes: readonly number[]) => new Promise((resolve, reject) => measuring.asked.push({ kit, notes, resolve, reject })) }))
vi.mock('../sound/kitPlayer', () => ({
  KitPlayer: class {
    constructor(onSound: (id: string, state: unknown) => void) {
      measuring.sound = onSound
    }
    setKit = () => undefined
    stop = () => undefined
  },
}))

const filled = (count: number): Kit => placeSounds(emptyKit('Night'), 0, Array.from({ length: count }, (_, i) => testSound(i + 1))).kit
const asked = () => measuring.asked.map(({ notes }) => notes.join(' '))
const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms)
/** Answers the question at a place: a peak, and a loudness 12 below it. */
async function answer(place: number, peakDb: number): Promise<void> {
  measuring.asked[place]!.resolve({ peakDb, hitLufs: peakDb - 12 })
  await wait(1)
}
function arrive(count: number): void {
  for (let i = 1; i <= count; i++) measuring.sound!(testSound(i).sound.id, { state: 'ready', outline: null } satisfies LoadedSound)
}

async function opened(count: number) {
  kits.add(filled(count))
  const kit = useKit()
  await kit.openLast()
  return { kit, levels: useLevels() }
}

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  kits = kitServer()
  measuring.asked = []
  return () => vi.useRealTimers()
})

// What is still being saved would reach the server of the next test.
afterEach(() => useKit().settled())

describe('how loud pads are', () => {
  it('is measured pad by pad once all can be heard, and not before', async () => {
    const { levels } = await opened(2)
    await wait(1000)
    expect(asked()).toEqual([])
    arrive(2)
    await wait(400)
    expect(asked()).toEqual(['36'])
    await answer(0, -6)
    expect(levels.levelOf(0)).toEqual({ peakDb: -6, hitLufs: -18 })
    expect(levels.levelOf(1)).toBeUndefined()
    expect([levels.awaits([0]), levels.awaits([0, 1])]).toEqual([false, true])
    await answer(1, -9)
    expect(levels.awaits([0, 1, 2])).toBe(false)
    expect(levels.levelOf(1)).toEqual({ peakDb: -9, hitLufs: -21 })
    expect([asked(), levels.isMeasuring]).toEqual([['36', '37'], false])
  })

  it('is measured anew for a pad that was edited alone; muting and the kit\'s own gain are not part of it', async () => {
    const { kit, levels } = await opened(2)
    arrive(2)
    await wait(400)
    await answer(0, -6)
    await answer(1, -9)
    kit.edit('Gain', state => setPads(state, [1], { gainDb: 3, muted: true }))
    await wait(400)
    expect(asked().slice(2)).toEqual(['37'])
    expect((measuring.asked[2]!.kit as Kit).pads).toMatchObject([{ gainDb: 3, muted: false }])
    await answer(2, -6)
    kit.edit('Kit gain', state => ({ ...state, gainDb: -4 }))
    await wait(400)
    expect(asked()).toHaveLength(3)
    expect(levels.levelOf(1)).toEqual({ peakDb: -10, hitLufs: -22 })
  })

  it('is not known of a pad that cannot be rendered, and the others are measured all the same', async () => {
    const { levels } = await opened(2)
    arrive(2)
    await wait(400)
    measuring.asked[0]!.reject(new Error('Its file is gone.'))
    await wait(1)
    await answer(1, -9)
    expect([levels.levelOf(0), levels.levelOf(1)?.peakDb, levels.awaits([0, 1])]).toEqual([undefined, -9, false])
    expect(asked()).toHaveLength(2)
  })

  it('of the loudest together is rendered at once, when it is asked for', async () => {
    const { kit, levels } = await opened(4)
    arrive(4)
    await wait(400)
    for (const [place, peakDb] of [-12, -3, -9, -1].entries()) await answer(place, peakDb)
    levels.atOnce = 2
    levels.wantsTogether = true
    await wait(400)
    expect(levels.loudest).toEqual([1, 3])
    expect(asked().at(-1)).toBe('37 39')
    expect((measuring.asked.at(-1)!.kit as Kit).pads.slice(0, 4).map(pad => pad.layers.length)).toEqual([0, 1, 0, 1])
    await answer(4, 2.5)
    expect(levels.together).toMatchObject({ peakDb: 2.5, padIndexes: [1, 3] })
    expect(levels.isTogetherNow).toBe(true)
    kit.edit('Kit gain', state => ({ ...state, gainDb: -4 }))
    expect([levels.together?.peakDb, levels.isTogetherNow]).toEqual([2.5, false])
    await wait(400)
    await answer(5, -1.5)
    expect([levels.together?.peakDb, levels.isTogetherNow]).toEqual([-1.5, true])
    levels.atOnce = 1
    expect(levels.isTogetherNow).toBe(false)
  })
})
