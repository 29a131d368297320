import { beforeEach, describe, expect, it, vi } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { applyDifference, type Difference } from '../../core/document/difference'
import { emptyKit, type Kit } from '../../core/kit/document'
import { clearPads, placeSounds, setPads } from '../../core/kit/edits'
import { playedFromBeats } from '../../core/groove/played'
import type { EngineMessage, EnginePlace } from './kit.worklet'
import type { LoadedSound } from './kitPlayer'

const RATE = 48_000

/** What was asked to be decoded, and how each is answered. */
const decoding = vi.hoisted(() => ({ asked: [] as { url: string, urgency: string, resolve: (sound: unknown) => void, reject: (error: Error) => void }[], hastened: [] as string[] }))
const heard = vi.hoisted(() => ({ ready: new Map<string, unknown>() }))

vi.mock('./decoder', () => ({
  soundUrl: (hash: string) => `/${hash}`,
  hasten: (url: string) => decoding.hastened.push(url),
  decodeUrl: (url: string, _rate: number, urgency: string) => new Promise((resolve, reject) => decoding.asked.push({ url, urgency, resolve, reject })),
}))
vi.mock('./bufferCache', () => ({ readySound: (url: string) => heard.ready.get(url) }))
vi.mock('./kit.worklet.ts?worker&url', () => ({ default: 'kit.worklet.js' }))
vi.mock('./output', () => ({ wake: async () => true, useOutput: () => ({ input: {}, context: { sampleRate: RATE, audioWorklet: { addModule: async () => undefined } } }) }))

/** The audio thread's end: keeps what it is sent. */
class FakeNode {
  static last: FakeNode | undefined
  readonly sent: EngineMessage[] = []
  readonly port: { postMessage: (message: EngineMessage) => void, onmessage: ((event: { data: EnginePlace }) => void) | null } = { postMessage: message => this.sent.push(message), onmessage: null }

  constructor() {
    FakeNode.last = this
  }

  readonly connect = vi.fn()
}

const sent = (type: EngineMessage['type']) => FakeNode.last?.sent.filter(message => message.type === type) ?? []
const rest = () => new Promise(resolve => setTimeout(resolve))
const decoded = (frames = 10) => ({ channels: [new Float32Array(frames)], sampleRate: RATE, frames, outline: new Int8Array(4) })
const filled = (count: number): Kit => placeSounds(emptyKit('K'), 0, Array.from({ length: count }, (_, i) => testSound(i + 1))).kit
const idOf = (n: number) => testSound(n).sound.id

async function player() {
  const { KitPlayer } = await import('./kitPlayer')
  const states = new Map<string, LoadedSound['state']>()
  const places: EnginePlace[] = []
  return { player: new KitPlayer((id, { state }) => states.set(id, state), place => places.push(place)), states, places }
}

beforeEach(() => {
  Object.assign(decoding, { asked: [], hastened: [] })
  heard.ready.clear()
  FakeNode.last = undefined
  vi.stubGlobal('AudioWorkletNode', FakeNode)
  return () => vi.unstubAllGlobals()
})

describe('the live engine, as the page sees it', () => {
  it('is given a kit whole at first, then only what changed of it', async () => {
    const { player: engine } = await player()
    const first = filled(3)
    const second = setPads(first, [1], { gainDb: -6 })
    engine.setKit(first)
    engine.setKit(second)
    await rest()
    expect(sent('kit')).toEqual([{ type: 'kit', kit: first }])
    const { difference } = sent('difference')[0] as { difference: Difference }
    expect(difference.map(({ at }) => at)).toEqual([['pads', 1, 'gainDb']])
    expect(applyDifference(first, difference)).toEqual(second)
  })

  it('loads each sound of the kit once, and says how far it is', async () => {
    const { player: engine, states } = await player()
    engine.setKit(filled(2))
    engine.setKit(setPads(filled(2), [0], { pan: 1 }))
    expect(decoding.asked.map(({ url, urgency }) => [url, urgency])).toEqual([[`/${idOf(1)}`, 'soon'], [`/${idOf(2)}`, 'soon']])
    expect([...states.values()]).toEqual(['loading', 'loading'])
    decoding.asked[0]!.resolve(decoded())
    decoding.asked[1]!.reject(new Error('Its drive is away.'))
    await rest()
    expect([...states.values()]).toEqual(['ready', { missing: 'Its drive is away.' }])
    expect(sent('sound').map(message => (message as { id: string }).id)).toEqual([idOf(1)])
  })

  it('tries again to load what was missing, and nothing else', async () => {
    const { player: engine, states } = await player()
    engine.setKit(filled(2))
    decoding.asked[0]!.resolve(decoded())
    decoding.asked[1]!.reject(new Error('Its drive is away.'))
    await rest()
    engine.retryMissing()
    expect(decoding.asked.map(({ url }) => url)).toEqual([`/${idOf(1)}`, `/${idOf(2)}`, `/${idOf(2)}`])
    decoding.asked[2]!.resolve(decoded())
    await rest()
    expect([...states.values()]).toEqual(['ready', 'ready'])
  })

  it('takes a sound that the page has decoded already, where it is at the engine\'s rate', async () => {
    const buffer = (sampleRate: number) => ({ buffer: { sampleRate, numberOfChannels: 2, getChannelData: () => new Float32Array([0.25]) }, outline: new Int8Array(4) })
    heard.ready.set(`/${idOf(1)}`, buffer(RATE))
    heard.ready.set(`/${idOf(2)}`, buffer(44_100))
    const { player: engine, states } = await player()
    engine.setKit(filled(2))
    await rest()
    expect(decoding.asked.map(({ url }) => url)).toEqual([`/${idOf(2)}`])
    expect(states.get(idOf(1))).toBe('ready')
    expect((sent('sound')[0] as { channels: Float32Array[] }).channels.map(channel => channel[0])).toEqual([0.25, 0.25])
  })

  it('hastens the sounds of a pad that is struck before they have come, and no others', async () => {
    const { player: engine } = await player()
    const kit = filled(3)
    engine.setKit(kit)
    decoding.asked[0]!.resolve(decoded())
    await rest()
    await engine.note(kit.pads[1]!.note, 100)
    await engine.note(kit.pads[0]!.note, 100)
    await engine.note(kit.pads[2]!.note, 0)
    expect(decoding.hastened).toEqual([`/${idOf(2)}`])
  })

  it('hastens a sound that is on its way when somebody waits for it', async () => {
    const { player: engine } = await player()
    engine.setKit(filled(1))
    const ready = engine.ensure(idOf(1))
    expect(decoding.hastened).toEqual([`/${idOf(1)}`])
    expect(decoding.asked).toHaveLength(1)
    decoding.asked[0]!.resolve(decoded())
    expect(await ready).toBe(true)
    const other = engine.ensure(idOf(9))
    expect(decoding.asked[1]!.urgency).toBe('now')
    decoding.asked[1]!.reject(new Error('gone'))
    expect(await other).toBe(false)
  })

  it('keeps sounds that left the kit for undo, until they are too much; those that were loaded first go', async () => {
    const { player: engine } = await player()
    const kit = filled(3)
    engine.setKit(kit)
    // Ten million frames of 4 bytes: two of them are more than may be spare.
    for (const { resolve } of decoding.asked) resolve({ ...decoded(), channels: [{ byteLength: 40_000_000, buffer: new ArrayBuffer(0) }] })
    await rest()
    engine.setKit(clearPads(kit, [0]))
    engine.setKit(kit)
    expect(decoding.asked).toHaveLength(3)
    engine.setKit(clearPads(kit, [0, 1]))
    await rest()
    expect(sent('forget')).toEqual([{ type: 'forget', id: idOf(1) }])
    engine.setKit(kit)
    expect(decoding.asked.map(({ url }) => url).slice(3)).toEqual([`/${idOf(1)}`])
  })

  it('tells where it is in the run that is under way, and nothing of one before', async () => {
    const { player: engine, places } = await player()
    const pattern = playedFromBeats(4, [{ beat: 0, note: 36, velocity: 100 }])
    await engine.start(pattern, { bpm: 100 })
    await engine.start(pattern, { bpm: 120 })
    await rest()
    expect(sent('start').map(message => (message as { run: number }).run)).toEqual([1, 2])
    const place = (run: number): EnginePlace => ({ run, contextSeconds: 1, tick: 5, ticksPerSecond: 1600, pass: 0, isChanging: false })
    for (const run of [1, 2]) FakeNode.last!.port.onmessage!({ data: place(run) })
    expect(places.map(({ run }) => run)).toEqual([2])
  })
})
