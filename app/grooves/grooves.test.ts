import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { drawn } from '../../tests/helpers/drawn'
import { kitServer } from '../../tests/helpers/kitServer'
import { patternServer } from '../../tests/helpers/patternServer'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores, asRequest } from '../../tests/helpers/stores'
import { emptyPattern } from '../../core/groove/document'
import { addHits, setPattern } from '../../core/groove/edits'
import { emptyKit, wholeLayer, type Kit } from '../../core/kit/document'
import { mapPads } from '../../core/kit/edits'
import { withNote, withRange } from '../../core/kit/noteEdits'
import { usePatternActions } from './usePatternActions'
import { listedCandidates } from '../library/candidates'
import { useCompany } from './company'
import { useGrooves } from './grooves'
import { useKit } from '../bench/kit'
import { usePatterns } from './patterns'
import { useRecording } from './recording'
import { useSettings } from '../parts/settings'
import { useTryOut } from './tryOut'

let kits = kitServer()
let patterns = patternServer()
const messages: string[] = []
const engine = vi.hoisted(() => ({ did: [] as [string, unknown][], heard: undefined as unknown, missing: new Set<string>(), loading: undefined as Promise<void> | undefined, tell: undefined as ((place: unknown) => void) | undefined }))

vi.mock('../parts/useApi', () => ({
  api: (...all: Parameters<typeof asRequest>) => {
    const [path, options] = asRequest(...all)
    if (path.startsWith('/api/patterns')) return patterns.ask(path, options)
    if (path.startsWith('/api/sounds')) return Promise.reject(new Error('no such sound'))
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
vi.mock('../sound/kitPlayer', () => ({
  KitPlayer: class {
    constructor(_onSound: unknown, onPlace: (place: unknown) => void) {
      engine.tell = onPlace
    }
    setKit = (kit: unknown) => engine.heard = kit
    note = async () => undefined
    stop = () => undefined
    retryMissing = () => undefined
    ensure = async (id: string) => {
      await engine.loading
      return !engine.missing.has(id)
    }
    start = async (...all: unknown[]) => engine.did.push(['start', all])
    change = (...all: unknown[]) => engine.did.push(['change', all])
    changeAtBar = (...all: unknown[]) => engine.did.push(['at bar', all])
    setOnce = () => undefined
    setMetronome = () => undefined
    end = () => engine.did.push(['end', []])
  },
}))

const sound = (n: number) => ({ id: n.toString(16).padStart(64, '0'), name: `Sound ${n}`, frames: 100, sampleRate: 48_000, channels: 1 })
function drums(name: string): Kit {
  const empty = emptyKit(name)
  const roles = ['kick', 'snare', 'hat.closed']
  return { ...empty, pads: empty.pads.map((pad, i) => roles[i] ? { ...pad, role: roles[i], name: roles[i], layers: [wholeLayer(sound(i + 1))] } : pad) }
}
const rest = async () => {
  for (let i = 0; i < 12; i++) await new Promise(resolve => setTimeout(resolve))
}
const did = (what: string) => engine.did.filter(([name]) => name === what).map(([, all]) => all as [{ ticks: Float64Array, notes: Uint16Array }, unknown])

async function opened(kit = drums('Night')) {
  kits.add(kit)
  await useKit().openLast()
  const grooves = useGrooves()
  await grooves.openFirst()
  await rest()
  return grooves
}
/** Says where the engine is: a tick, at a time of the audio clock, in seconds. */
const at = (tick: number | null, seconds: number, pass = 0) => engine.tell!({ run: 1, contextSeconds: seconds, tick, ticksPerSecond: 1760, pass, isChanging: false })

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined, removeItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  kits = kitServer()
  patterns = patternServer()
  Object.assign(engine, { did: [], heard: undefined, missing: new Set(), loading: undefined })
  messages.length = 0
})

// What is still being saved would reach the server of the next test.
afterEach(async () => {
  await useKit().settled()
  await useGrooves().settled()
})

describe('the current pattern', () => {
  it('is a shipped one at first; an edit of it goes into a copy, and undo still leads back', async () => {
    const grooves = await opened()
    expect(grooves.id).toBe('shipped-gangway')
    const before = grooves.pattern
    grooves.setTempo(77)
    grooves.edit('Bars', now => setPattern(now, { bars: 4 }))
    await rest()
    expect(grooves.isShipped).toBe(false)
    await grooves.settled()
    expect(patterns.patterns.get(grooves.id!)!.pattern).toMatchObject({ tempoBpm: 77, bars: 4 })
    expect(patterns.patterns.get('shipped-gangway')!.pattern).toEqual(before)
    grooves.undo()
    grooves.undo()
    await grooves.settled()
    expect(patterns.patterns.get(grooves.id!)!.pattern).toEqual(before)
    grooves.stepTo(2)
    expect(grooves.pattern).toMatchObject({ tempoBpm: 77, bars: 4 })
  })

  it('takes edits that were made while it was on its way', async () => {
    const grooves = await opened()
    const opening = grooves.create(emptyPattern('Mine'))
    grooves.setTempo(99)
    await opening
    await rest()
    expect(grooves.pattern).toMatchObject({ name: 'Mine', tempoBpm: 99 })
    expect(patterns.patterns.get('shipped-gangway')!.pattern.tempoBpm).toBe(96)
  })

  it('that was changed elsewhere is kept as one of its own', async () => {
    const grooves = await opened()
    await grooves.create(emptyPattern('Mine'))
    const mine = grooves.id!
    patterns.patterns.set(mine, { ...patterns.patterns.get(mine)!, revision: 9 })
    grooves.setTempo(60)
    await grooves.settled()
    expect(grooves.pattern.name).toBe('Mine (other tab)')
    expect(patterns.patterns.get(grooves.id!)!.pattern.tempoBpm).toBe(60)
    expect(messages.join(' ')).toMatch(/another tab/)
  })

  it('that was deleted elsewhere is kept as a new one when it is edited here', async () => {
    const grooves = await opened()
    await grooves.create(emptyPattern('Mine'))
    patterns.patterns.delete(grooves.id!)
    await usePatterns().load()
    grooves.setTempo(60)
    await grooves.settled()
    expect(patterns.patterns.get(grooves.id!)!.pattern).toMatchObject({ name: 'Mine', tempoBpm: 60 })
    expect(messages.at(-1)).toContain('was deleted in another tab')
  })

  it('plays what is shown, as it is edited; another one follows with the next bar', async () => {
    const grooves = await opened()
    await grooves.play()
    expect(did('start')[0]![0].ticks).toHaveLength(12)
    at(10, 0)
    grooves.edit('Erase', now => ({ ...now, parts: now.parts.slice(0, 1) }))
    await rest()
    expect(did('change').at(-1)![0].ticks).toHaveLength(2)
    await rest()
    await grooves.open('shipped-night-watch')
    expect(did('at bar')).toHaveLength(1)
    expect(did('at bar')[0]![1]).toBe(92)
    at(null, 1)
    await nextTick()
    expect(grooves.isRunning).toBe(false)
  })

  it('keeps the tempo of now where that is asked, through edits, until another is set', async () => {
    const grooves = await opened()
    useSettings().groove = { ...useSettings().groove, keepsTempo: true }
    await grooves.play()
    at(10, 0)
    await grooves.open('shipped-cable-drum')
    await rest()
    expect(did('at bar')[0]![1]).toBe(96)
    grooves.edit('Erase', now => ({ ...now, parts: now.parts.slice(1) }))
    await rest()
    expect(did('change').at(-1)![1]).toBe(96)
    expect(grooves.pattern.tempoBpm).toBe(104)
    grooves.setTempo(130)
    await rest()
    expect(did('change').at(-1)![1]).toBe(130)
  })

  it('comes with a kit, unless it is held', async () => {
    const grooves = await opened()
    const other = kits.add(drums('Day'), { patternId: 'shipped-night-watch' })
    await useKit().open(other.id)
    await rest()
    expect(grooves.id).toBe('shipped-night-watch')
    const third = kits.add(drums('Dusk'), { patternId: 'shipped-gangway' })
    useSettings().groove = { ...useSettings().groove, holdsPattern: true }
    await useKit().open(third.id)
    await rest()
    expect(grooves.id).toBe('shipped-night-watch')
  })

  it('is heard on another kit without a change, and on several together', async () => {
    const grooves = await opened()
    const company = useCompany()
    company.hearInstead({ kit: drums('Other'), id: 'other' })
    await nextTick()
    expect((engine.heard as Kit).name).toBe('Other')
    company.hearInstead(undefined)
    await nextTick()
    expect((engine.heard as Kit).name).toBe('Night')
    const along = kits.add(drums('Along'))
    await company.invite(along.id)
    await nextTick()
    expect((engine.heard as Kit).pads).toHaveLength(32)
    // As they are now, and no longer those that are gone.
    kits.kits.set(along.id, { ...along, kit: { ...along.kit, name: 'Renamed' } })
    await grooves.openFirst()
    await rest()
    expect(company.kits.map(one => one.name)).toEqual(['Night', 'Renamed'])
    company.dismiss(along.id)
    await nextTick()
    expect((engine.heard as Kit).pads).toHaveLength(16)
  })
})

describe('recording', () => {
  async function recordingOn(bars = 1) {
    const grooves = await opened()
    await grooves.create(emptyPattern('Take', bars))
    await rest()
    const settings = useSettings()
    settings.groove = { ...settings.groove, countInBars: 0 }
    const recording = useRecording()
    await recording.toggle()
    return { grooves, settings, recording, kit: useKit() }
  }

  it('writes hits where they were heard, as long as they were held', async () => {
    const { grooves, kit } = await recordingOn()
    at(0, 10)
    kit.playPad(0, 90, 10_500)
    kit.playPad(0, 0, 10_600)
    kit.playPad(2, 100, 11_000)
    expect(grooves.pattern.parts.map(part => part.role)).toEqual(['kick', 'hat.closed'])
    // 0.5 s at 1,760 ticks a second, held for 0.1 s.
    expect(grooves.pattern.parts[0]!.hits).toEqual([{ tick: 880, velocity: 90, length: 176 }])
    expect(grooves.pattern.parts[1]!.hits[0]!.tick).toBe(1760)
    grooves.undo()
    expect(grooves.pattern.parts).toEqual([])
  })

  it('keeps the notes of a pad with a range apart, each as long as its own key was held', async () => {
    const { grooves, kit } = await recordingOn()
    // Above the notes of the other pads.
    const note = 90
    kit.edit('Note range', state => mapPads(state, [0], pad => withRange(withNote(pad, note), { low: note - 6, high: note + 6, root: note, trackCents: 100 })))
    at(0, 10)
    kit.playNote(note + 3, 90, 10_500)
    kit.playNote(note - 2, 80, 10_600)
    kit.playNote(note + 3, 0, 10_700)
    kit.playNote(note - 2, 0, 10_900)
    kit.playNote(note + 3, 70, 11_000)
    expect(grooves.pattern.parts.map(part => [part.note, part.hits.map(hit => [hit.velocity, hit.length])])).toEqual([[note + 3, [[90, 352], [70, 120]]], [note - 2, [[80, 528]]]])
    at(1700, 11.1)
    await nextTick()
    expect([...grooves.played.notes]).toContain(note + 3)
  })

  it('takes off the delay of the input, and draws to the grid on the way in', async () => {
    const { grooves, settings, kit } = await recordingOn()
    settings.groove = { ...settings.groove, inputMs: 100, quantizesIn: true }
    at(0, 10)
    kit.playPad(0, 90, 10_250)
    expect(grooves.pattern.parts[0]!.hits[0]).toMatchObject({ tick: 240, playedTick: 264 })
  })

  it('does not play a hit again before the loop has come round', async () => {
    const { grooves, kit } = await recordingOn()
    at(0, 10)
    kit.playPad(0, 90, 10_500)
    await nextTick()
    expect(grooves.played.ticks).toHaveLength(0)
    at(1000, 10.6)
    await nextTick()
    expect(grooves.played.ticks).toHaveLength(1)
  })

  it('replaces the hits of a part once a round, and leaves the others', async () => {
    const { grooves, settings, kit } = await recordingOn()
    at(0, 10)
    kit.playPad(0, 90, 10_100)
    kit.playPad(1, 90, 10_200)
    settings.groove = { ...settings.groove, records: 'replace' }
    at(0, 20, 1)
    await nextTick()
    kit.playPad(0, 90, 20_600)
    kit.playPad(0, 90, 21_200)
    expect(grooves.pattern.parts.map(part => part.hits.length)).toEqual([2, 1])
  })

  it('of what is played while it is counted in takes only the hit that is meant for the beginning', async () => {
    const { grooves, kit } = await recordingOn()
    at(-3840, 10)
    kit.playPad(0, 90, 10_500)
    expect(grooves.pattern.parts).toEqual([])
    kit.playPad(0, 90, 10_000 + (3840 - 60) / 1.76)
    expect(grooves.pattern.parts[0]!.hits[0]!.tick).toBe(0)
  })

  it('ends with the playing; the tempo is taken from taps', async () => {
    const { grooves, recording } = await recordingOn()
    at(0, 1)
    at(null, 2)
    await nextTick()
    expect(recording.isOn).toBe(false)
    for (const ms of [1000, 1500, 2000, 2500]) recording.tapTempo(ms)
    expect(grooves.pattern.tempoBpm).toBe(120)
  })

  it('measures the delay of the input from what is played with the click', async () => {
    const { recording, settings, kit } = await recordingOn()
    await recording.measureInput()
    at(0, 10)
    // A quarter at 110 beats a minute is 545.45 ms; each hit comes 30 ms late.
    for (let beat = 0; beat < 5; beat++) kit.playPad(0, 90, 10_000 + beat * 960 / 1.76 + 30)
    expect(recording.measured).toBe(30)
    await recording.measureInput()
    expect(settings.groove.inputMs).toBe(30)
  })
})

describe('trying candidates in the pattern', () => {
  const rows = Array.from({ length: 5 }, (_, i) => madeRow(i + 20, { hitLufs: -20 - i }))

  it('lets each be heard when it is loaded, and all is as before when nothing is kept', async () => {
    const grooves = await opened()
    const tryOut = useTryOut()
    const kit = useKit()
    const before = kit.kit
    await tryOut.beginList([0, 1], listedCandidates('Five', rows))
    expect(grooves.isRunning).toBe(true)
    const heard = () => (engine.heard as Kit).pads.slice(0, 2).map(pad => pad.layers[0]!.sound.id)
    expect(heard()).toEqual([rows[0]!.hash, rows[0]!.hash])
    let loaded: () => void = () => undefined
    engine.loading = new Promise(resolve => loaded = resolve)
    const going = tryOut.goTo(1)
    await rest()
    expect(heard()).toEqual([rows[0]!.hash, rows[0]!.hash])
    loaded()
    await going
    expect(heard()).toEqual([rows[1]!.hash, rows[1]!.hash])
    engine.missing.add(rows[2]!.hash)
    await tryOut.goTo(2)
    expect(heard()).toEqual([rows[1]!.hash, rows[1]!.hash])
    tryOut.end()
    expect(engine.heard).toEqual(before)
    expect(kit.kit).toBe(before)
    expect(grooves.isRunning).toBe(true)
  })

  it('keeps one, with the settings of the pad or without them, at its level', async () => {
    await opened({ ...drums('Night'), pads: drums('Night').pads.map((pad, i) => i === 0 ? { ...pad, tuneCents: 300, chokeGroup: 2 } : pad) })
    const tryOut = useTryOut()
    const kit = useKit()
    await tryOut.beginList([0], listedCandidates('Five', rows))
    tryOut.padSettings = 'reset'
    await tryOut.goTo(3)
    expect(tryOut.keep()).toBe(true)
    // The common reference is -26 LUFS; this one is at -23.
    expect(kit.kit.pads[0]).toMatchObject({ tuneCents: 0, chokeGroup: 2, role: 'kick' })
    expect(kit.kit.pads[0]!.layers[0]).toMatchObject({ gainDb: -3 })
    expect(kit.canUndo).toBe('Put "Sound 23" on A1')
    kit.undo()
    expect(kit.kit.pads[0]).toMatchObject({ tuneCents: 300 })
  })

  it('goes through those that were marked alone', async () => {
    await opened()
    const tryOut = useTryOut()
    await tryOut.beginList([0], listedCandidates('Five', rows))
    for (const index of [1, 4]) {
      await tryOut.goTo(index)
      tryOut.mark()
    }
    tryOut.compareMarked()
    await rest()
    expect(tryOut.total).toBe(2)
    expect(tryOut.candidate?.sound.id).toBe(rows[1]!.hash)
    tryOut.random()
    await rest()
    expect(tryOut.candidate?.sound.id).toBe(rows[4]!.hash)
  })
})

describe('the cursor and what is chosen', () => {
  // The actions are shared by all that ask for them, so that they are gone through in one test.
  it('is drawn at, chosen from, moved, repeated and looped', async () => {
    const grooves = await opened()
    await grooves.create(emptyPattern('Keys', 2))
    await rest()
    const actions = usePatternActions()
    const hits = () => Object.fromEntries(grooves.pattern.parts.map(part => [part.role, part.hits.map(hit => hit.tick)]))
    actions.drawOrErase()
    actions.moveCursor(2)
    actions.drawOrErase()
    expect(hits()).toEqual({ kick: [0, 480] })
    actions.moveRow(1)
    actions.drawOrErase()
    expect(hits()).toEqual({ kick: [0, 480], snare: [480] })
    // Back to the first step and up, choosing what lies between.
    actions.moveRow(-1, true)
    actions.moveCursor(-2, true)
    expect(grooves.chosen.size).toBe(3)
    actions.shift(240)
    expect(hits()).toEqual({ kick: [240, 720], snare: [720] })
    actions.shiftRows(1)
    expect(hits()).toEqual({ 'kick': [], 'snare': [240, 720], 'hat.closed': [720] })
    actions.louder(40)
    expect(grooves.pattern.parts[1]!.hits.map(hit => hit.velocity)).toEqual([127, 127])
    actions.copy()
    expect(actions.letGo()).toBe(true)
    expect(actions.letGo()).toBe(false)
    grooves.cursorTick = 0
    actions.repeatBar()
    expect(hits()).toEqual({ 'kick': [], 'snare': [240, 720, 4080, 4560], 'hat.closed': [720, 4560] })
    expect(grooves.cursorTick).toBe(3840)
    actions.letGo()
    actions.loopHere()
    expect(grooves.bars).toEqual({ from: 1, to: 2 })
    expect(grooves.played.ticks).toHaveLength(3)
    actions.loopHere()
    expect(grooves.bars).toEqual({ from: 0, to: 2 })
    actions.chooseAll()
    actions.erase()
    expect(grooves.pattern.parts.every(part => part.hits.length === 0)).toBe(true)
    actions.paste()
    expect(hits()).toEqual({ 'kick': [], 'snare': [3840, 4320], 'hat.closed': [4320] })
  })

  it('follows undo: what is gone is not chosen', async () => {
    const grooves = await opened()
    await grooves.create(drawn({ kick: [0, 960] }))
    await rest()
    grooves.edit('Draw', now => addHits(now, 'part-1', [{ tick: 480, velocity: 9, length: 1 }]))
    expect(grooves.chosen.size).toBe(1)
    grooves.undo()
    expect(grooves.chosen.size).toBe(0)
  })
})
