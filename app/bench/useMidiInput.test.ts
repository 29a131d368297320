import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { testSound } from '../../tests/helpers/kit'
import { kitServer } from '../../tests/helpers/kitServer'
import { patternServer } from '../../tests/helpers/patternServer'
import { freshStores, asRequest } from '../../tests/helpers/stores'
import { emptyPattern } from '../../core/groove/document'
import { useGrooves } from '../grooves/grooves'
import { useKit } from './kit'
import { useRecording } from '../grooves/recording'
import { useSettings } from '../parts/settings'
import { curved, learning, midiInputs, midiState, useMidiInput } from './useMidiInput'

let kits = kitServer()
let patterns = patternServer()
const messages: string[] = []
const engine = vi.hoisted(() => ({ notes: [] as [number, number][], tell: undefined as ((place: unknown) => void) | undefined }))

vi.mock('../parts/useApi', () => ({
  api: (...all: Parameters<typeof asRequest>) => {
    const [path, options] = asRequest(...all)
    if (path.startsWith('/api/patterns')) return patterns.ask(path, options)
    return path.endsWith('/pattern') ? Promise.resolve({}) : kits.ask(path, options)
  },
  toEmporionError: (thrown: unknown) => thrown,
}))
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: () => undefined, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ say: (text: string) => messages.push(text), sayError: (thrown: Error) => messages.push(thrown.message), saying: (work: () => unknown) => work() }))
vi.mock('../sound/heardClock', () => ({ heardSeconds: (ms: number) => ms / 1000 }))
vi.mock('../sound/output', () => ({ useOutput: () => ({ context: { state: 'running' } }), setVolume: () => undefined, wake: async () => true }))
vi.mock('../sound/audition', () => ({ stopAudition: () => undefined, startAudition: () => undefined, setAuditionGain: () => undefined, auditionSeconds: () => null }))
vi.mock('../sound/bufferCache', () => ({ loadSound: async () => undefined, readySound: () => undefined }))
vi.mock('../sound/together', () => ({ playTogether: () => undefined, stopTogether: () => undefined }))
vi.mock('../sound/kitPlayer', () => ({
  KitPlayer: class {
    constructor(_onSound: unknown, onPlace: (place: unknown) => void) {
      engine.tell = onPlace
    }
    note = async (note: number, velocity: number) => engine.notes.push([note, velocity])
    setKit = () => undefined
    stop = () => undefined
    start = async () => undefined
    change = () => undefined
    changeAtBar = () => undefined
    setOnce = () => undefined
    setMetronome = () => undefined
    end = () => undefined
  },
}))

/** A device, as the browser shows it. */
interface Device {
  readonly name: string
  state: 'connected' | 'disconnected'
  onmidimessage: ((event: { data: Uint8Array, timeStamp: number }) => void) | null
}
const device = (name: string): Device => ({ name, state: 'connected', onmidimessage: null })
const play = (from: Device, bytes: readonly number[], timeStamp = 0) => from.onmidimessage?.({ data: Uint8Array.from(bytes), timeStamp })

let access: { inputs: Map<string, Device>, onstatechange: (() => void) | null }
let scope: EffectScope

async function listening(...devices: Device[]) {
  access = { inputs: new Map(devices.map(one => [one.name, one])), onstatechange: null }
  vi.stubGlobal('navigator', { requestMIDIAccess: async () => access })
  kits.add(placeSounds(emptyKit('Night'), 0, [testSound(1), testSound(2), testSound(3)]).kit)
  await useKit().openLast()
  await scope.run(() => useMidiInput())
}

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  kits = kitServer()
  patterns = patternServer()
  Object.assign(engine, { notes: [], tell: undefined })
  messages.length = 0
  learning.value = undefined
  midiState.value = 'off'
  scope = effectScope()
  return () => scope.stop()
})

// What is still being saved would reach the server of the next test.
afterEach(() => useKit().settled())

describe('MIDI inputs', () => {
  it('play notes as hard as they come; a note on at velocity 0 lets go (MIDI 1.0), other messages do nothing', async () => {
    const pads = device('Deck pads')
    await listening(pads)
    expect([midiState.value, midiInputs.value]).toEqual(['on', ['Deck pads']])
    play(pads, [0x90, 36, 101])
    // Any channel is taken.
    play(pads, [0x99, 37, 1])
    play(pads, [0x90, 36, 0])
    play(pads, [0x89, 37, 64])
    play(pads, [0xB0, 7, 100])
    play(pads, [0xF8])
    expect(engine.notes).toEqual([[36, 101], [37, 1], [36, 0], [37, 0]])
  })

  it('are listened to one by one when that is chosen, and all while the chosen one is away', async () => {
    const [pads, keys] = [device('Deck pads'), device('Cabin keys')]
    await listening(pads, keys)
    const settings = useSettings()
    settings.playing = { ...settings.playing, input: 'Cabin keys' }
    await nextTick()
    play(pads, [0x90, 36, 90])
    play(keys, [0x90, 37, 90])
    expect(engine.notes).toEqual([[37, 90]])
    keys.state = 'disconnected'
    access.onstatechange!()
    play(pads, [0x90, 38, 90])
    expect(engine.notes).toEqual([[37, 90], [38, 90]])
    expect(midiInputs.value).toEqual(['Deck pads'])
  })

  it('play an octave higher where that is chosen; a note that reaches no pad but would in another octave is hinted at', async () => {
    const pads = device('Deck pads')
    await listening(pads)
    play(pads, [0x90, 24, 90])
    play(pads, [0x90, 25, 90])
    expect(messages).toEqual([expect.stringMatching(/^No pad plays note 24 · C0\. An octave shift of \+1 would reach one/)])
    const settings = useSettings()
    settings.playing = { ...settings.playing, octaves: 1 }
    play(pads, [0x90, 24, 90])
    play(pads, [0x90, 24, 0])
    play(pads, [0x90, 125, 90])
    expect(engine.notes).toEqual([[24, 90], [25, 90], [36, 90], [36, 0]])
    expect(messages).toHaveLength(1)
  })

  it('that are plugged in later are heard too', async () => {
    await listening()
    expect(midiInputs.value).toEqual([])
    const pads = device('Deck pads')
    access.inputs.set('Deck pads', pads)
    access.onstatechange!()
    play(pads, [0x90, 36, 90])
    expect(engine.notes).toEqual([[36, 90]])
  })

  it('are let go with the view', async () => {
    const pads = device('Deck pads')
    await listening(pads)
    scope.stop()
    expect([pads.onmidimessage, access.onstatechange]).toEqual([null, null])
  })

  it('that are refused or absent are named as that', async () => {
    vi.stubGlobal('navigator', { requestMIDIAccess: async () => Promise.reject(new Error('no')) })
    await scope.run(() => useMidiInput())
    expect(midiState.value).toBe('refused')
    vi.stubGlobal('navigator', {})
    await scope.run(() => useMidiInput())
    expect(midiState.value).toBe('absent')
  })
})

describe('velocities', () => {
  it('follow the curve that is chosen, which leaves silence, the softest and the hardest where they are', async () => {
    const pads = device('Deck pads')
    await listening(pads)
    const settings = useSettings()
    settings.playing = { ...settings.playing, curve: 'softer' }
    play(pads, [0x90, 36, 64])
    settings.playing = { ...settings.playing, curve: 'harder' }
    play(pads, [0x90, 36, 64])
    // 127 (64 / 127)^1.6 and ^0.6.
    expect(engine.notes).toEqual([[36, 42], [36, 84]])
    for (const curve of ['softer', 'as played', 'harder'] as const) {
      const all = Array.from({ length: 128 }, (_, velocity) => curved(velocity, curve))
      expect([all[0], all[127]]).toEqual([0, 127])
      expect(Math.min(...all.slice(1))).toBeGreaterThanOrEqual(1)
      expect(all.every((value, i) => i === 0 || value >= all[i - 1]!)).toBe(true)
    }
  })
})

describe('a pad that learns its note', () => {
  it('takes the next one that is hit, once, and says so', async () => {
    const pads = device('Deck pads')
    await listening(pads)
    const kit = useKit()
    learning.value = 1
    play(pads, [0x80, 50, 0])
    expect(kit.kit.pads[1]!.note).toBe(37)
    play(pads, [0x90, 60, 90])
    play(pads, [0x90, 61, 90])
    expect(kit.kit.pads[1]!.note).toBe(60)
    expect(messages).toEqual(['A2 is played by note 60.'])
    expect(kit.canUndo).toBe('Note 60 for A2')
    // What was hit is heard at once, as the pad plays it from now on.
    expect(engine.notes.at(-2)).toEqual([60, 90])
  })
})

describe('a take from a MIDI input', () => {
  it('is written where and as hard as it was played, and as long', async () => {
    const pads = device('Deck pads')
    await listening(pads)
    const grooves = useGrooves()
    await grooves.openFirst()
    await grooves.create({ ...emptyPattern('Mine'), tempoBpm: 110 })
    const settings = useSettings()
    settings.groove = { ...settings.groove, quantizesIn: false, inputMs: 20, countInBars: 0 }
    await useRecording().toggle()
    // At 110 beats a minute a second has 1,760 ticks.
    engine.tell!({ run: 1, contextSeconds: 10, tick: 0, ticksPerSecond: 1760, pass: 0, isChanging: false })
    play(pads, [0x90, 36, 77], 10_520)
    play(pads, [0x80, 36, 0], 10_620)
    play(pads, [0x90, 38, 33], 11_020)
    play(pads, [0x90, 99, 33], 11_020)
    expect(grooves.pattern.parts.map(part => part.hits)).toEqual([[{ tick: 880, velocity: 77, length: 176 }], [expect.objectContaining({ tick: 1760, velocity: 33 })]])
  })
})
