import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { kitServer } from '../../tests/helpers/kitServer'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores, asRequest } from '../../tests/helpers/stores'
import { emptyKit } from '../../core/kit/document'
import { placeSounds, setPads } from '../../core/kit/edits'
import { useShownKit } from './useShownKit'
import { useClip } from './clip'
import { useKit } from './kit'
import { usePlacing } from './placing'
import { useSettings } from '../parts/settings'
import { useSideKit } from './sideKit'

let server = kitServer()
const messages: string[] = []
const heard = vi.hoisted(() => ({ kits: [] as unknown[], notes: [] as [number, number][] }))

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => server.ask(...asRequest(...all)), toEmporionError: (thrown: unknown) => thrown }))
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: () => undefined, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ say: (text: string) => messages.push(text), sayError: (thrown: Error) => messages.push(thrown.message), saying: (work: () => unknown) => work() }))
vi.mock('../sound/kitPlayer', () => ({
  KitPlayer: class {
    setKit = (kit: unknown) => heard.kits.push(kit)
    note = async (note: number, velocity: number) => heard.notes.push([note, velocity])
    stop = () => undefined
    retryMissing = () => undefined
    setPattern = () => undefined
  },
}))

async function opened() {
  const kit = useKit()
  await kit.openLast()
  return kit
}

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  server = kitServer()
  messages.length = 0
  heard.kits.length = 0
  heard.notes.length = 0
})

// What is still being saved would reach the server of the next test.
afterEach(() => useKit().settled())

describe('the current kit', () => {
  it('is saved at every edit by what changed, and the server has what is shown', async () => {
    const kit = await opened()
    kit.edit('Put sounds', state => placeSounds(state, 0, [testSound(1), testSound(2)]).kit)
    kit.edit('Gain', state => setPads(state, [0], { gainDb: -3 }))
    kit.undo()
    kit.edit('Pan', state => setPads(state, [1], { pan: 0.5 }))
    await kit.settled()
    expect(server.kits.get(kit.id!)!.kit).toEqual(kit.kit)
    expect(kit.saveState).toBe('saved')
    expect(heard.kits.at(-1)).toBe(kit.kit)
  })

  it('is not edited before it is there, and says so', async () => {
    const kit = useKit()
    expect(kit.edit('Mute', state => setPads(state, [0], { muted: true }))).toBe(false)
    expect(kit.place(0, [madeRow(1)])).toBe(false)
    expect(messages).toEqual([expect.stringContaining('still on its way'), expect.stringContaining('still on its way')])
    expect(kit.kit.pads[0]).toMatchObject({ muted: false, layers: [] })
    await kit.openLast()
    expect(kit.edit('Mute', state => setPads(state, [0], { muted: true }))).toBe(true)
  })

  it('keeps what is edited while another one is on its way', async () => {
    const kit = await opened()
    const first = kit.id!
    const other = kit.create()
    await Promise.resolve()
    kit.edit('Mute', state => setPads(state, [0], { muted: true }))
    await other
    expect(kit.id).not.toBe(first)
    expect(kit.kit.pads[0]!.muted).toBe(false)
    expect(server.kits.get(first)!.kit.pads[0]!.muted).toBe(true)
  })

  it('what was meant for one kit is not done to another that was opened before the answer came', async () => {
    const kit = await opened()
    const name = kit.kit.name
    let answer: (value: string) => void = () => undefined
    const asked = kit.stillAtHand(new Promise<string>(resolve => answer = resolve))
    await kit.create()
    answer('came')
    await expect(asked).rejects.toThrow(`to "${name}"`)
    await expect(kit.stillAtHand(Promise.resolve('came'))).resolves.toBe('came')
  })

  it('has a history in words that one can step in', async () => {
    const kit = await opened()
    for (const gainDb of [-1, -2, -3]) kit.edit(`Gain ${gainDb}`, state => setPads(state, [0], { gainDb }))
    kit.stepTo(-2)
    expect(kit.pad.gainDb).toBe(-1)
    expect(kit.steps.map(step => [step.offset, step.label])).toEqual([[-1, 'Start'], [0, 'Gain -1'], [1, 'Gain -2'], [2, 'Gain -3']])
    kit.stepTo(2)
    expect(kit.pad.gainDb).toBe(-3)
  })

  it('changed in another tab at the same time: both are kept, and there is a message', async () => {
    const kit = await opened()
    const id = kit.id!
    server.kits.set(id, { ...server.kits.get(id)!, revision: 7 })
    kit.edit('Gain', state => setPads(state, [0], { gainDb: -3 }))
    await kit.settled()
    expect(kit.id).not.toBe(id)
    expect(server.kits.get(kit.id!)!.kit).toMatchObject({ name: 'New kit (other tab)' })
    expect(messages.at(-1)).toContain('was changed in another tab at the same time')
  })

  it('deleted in another tab while it is edited here: what was made here is kept', async () => {
    const kit = await opened()
    const id = kit.id!
    server.kits.delete(id)
    kit.edit('Gain', state => setPads(state, [0], { gainDb: -3 }))
    await kit.settled()
    expect(kit.id).not.toBe(id)
    expect(server.kits.get(kit.id!)!.kit).toMatchObject({ name: 'New kit', pads: expect.arrayContaining([expect.objectContaining({ gainDb: -3 })]) })
    expect(messages.at(-1)).toContain('was deleted in another tab')
  })

  it('written by a newer version is not changed; a copy can be', async () => {
    const newer = server.add(emptyKit('Later'), { writtenBy: 9 })
    const kit = await opened()
    await kit.open(newer.id)
    kit.edit('Gain', state => setPads(state, [0], { gainDb: -3 }))
    expect(kit.pad.gainDb).toBe(0)
    expect(messages.at(-1)).toContain('can only be read here')
    useClip().copy()
    useClip().paste()
    expect(messages.at(-1)).toContain('can only be read here')
    await kit.copyToWorkOn()
    kit.edit('Gain', state => setPads(state, [0], { gainDb: -3 }))
    expect([kit.kit.name, kit.pad.gainDb]).toEqual(['Later copy', -3])
  })

  it('several pads are chosen one by one, from to, or all that hold a sound', async () => {
    const kit = await opened()
    kit.edit('Put sounds', state => placeSounds(state, 0, [testSound(1), testSound(2), testSound(3)]).kit)
    kit.select(1)
    kit.select(3, 'extend')
    expect(kit.editedPads).toEqual([1, 2, 3])
    kit.select(2, 'toggle')
    expect(kit.editedPads).toEqual([1, 3])
    kit.select(5)
    expect(kit.editedPads).toEqual([5])
    kit.chooseFilled()
    expect(kit.editedPads).toEqual([0, 1, 2])
  })
})

describe('sounds that are sent to pads', () => {
  it('one goes there at once; several are shown first, unless the last choice holds', async () => {
    const kit = await opened()
    const placing = usePlacing()
    placing.send(4, [madeRow(1)])
    expect([kit.kit.pads[4]!.layers.length, placing.isOpen]).toEqual([1, false])
    placing.send(6, [madeRow(2), madeRow(3)])
    expect([placing.isOpen, kit.filledPads]).toEqual([true, 1])
    placing.carryOut()
    expect(kit.filledPads).toBe(3)
    useSettings().placing = { ...useSettings().placing, skips: true }
    placing.send(8, [madeRow(4), madeRow(5)])
    expect([placing.isOpen, kit.filledPads]).toEqual([false, 5])
    // What would be replaced is asked for all the same.
    useSettings().placing = { ...useSettings().placing, way: 'stack' }
    placing.send(4, [madeRow(6), madeRow(7)])
    expect([placing.isOpen, kit.filledPads]).toEqual([true, 5])
  })

  it('are shown on the bench as they would lie, from the first on or where one looks, and the kit stays as it is', async () => {
    const kit = await opened()
    kit.place(1, [madeRow(9)])
    const placing = usePlacing()
    const { shown, atHand, bank, becomes, outlineOf } = useShownKit()
    const before = kit.kit
    expect([shown.value, bank.value, becomes(1)]).toEqual([before, 0, undefined])
    useSettings().placing = { ...useSettings().placing, families: false, skipsTaken: false }
    placing.send(0, Array.from({ length: 18 }, (_, i) => madeRow(i + 1, { overview: btoa('\x01\x7f') })))
    expect(shown.value.pads[0]!.layers[0]!.sound.name).toBe('Sound 1')
    expect([becomes(0), becomes(1), becomes(20)]).toEqual(['new', 'replaced', 'left'])
    expect(outlineOf(madeRow(1).hash)).toEqual(Int8Array.of(1, 127))
    placing.look(17)
    expect([atHand.value, bank.value]).toEqual([17, 1])
    placing.look(25)
    expect(atHand.value).toBe(17)
    placing.look(-Infinity)
    expect([atHand.value, bank.value]).toEqual([0, 0])
    expect(kit.kit).toBe(before)
    placing.isOpen = false
    expect([shown.value, becomes(0)]).toEqual([before, undefined])
  })

  it('tells what the target will not take of them', async () => {
    const kit = await opened()
    const placing = usePlacing()
    kit.edit('Target', state => ({ ...state, target: 'sixteen-pads' }))
    placing.open(Array.from({ length: 18 }, (_, i) => madeRow(i + 1)))
    expect(placing.beyond.map(one => one.limit)).toEqual(['pads', 'note', 'pads', 'note'])
  })

  it('begin above what is taken, or on the lowest free note where more find room there', async () => {
    const kit = await opened()
    const placing = usePlacing()
    kit.edit('Fill', state => setPads(placeSounds(state, 0, [testSound(1)]).kit, [0], { note: 100 }))
    placing.open([madeRow(1), madeRow(2)])
    expect(placing.startNote).toBe(101)
    kit.edit('Fill', state => setPads(state, [0], { note: 126 }))
    placing.open([madeRow(1), madeRow(2)])
    expect([placing.startNote, placing.preview.notPlaced.length]).toEqual([0, 0])
    kit.edit('Fill', state => setPads(state, [0], { note: 125 }))
    placing.open([madeRow(1), madeRow(2)])
    expect(placing.startNote).toBe(126)
  })

  it('become a kit for each kind, and the first is taken up', async () => {
    const kit = await opened()
    const placing = usePlacing()
    placing.open([{ ...madeRow(1), kind: 'kick' }, { ...madeRow(2), kind: 'hat.open' }])
    expect(await placing.makeSet('Quay')).toBe(2)
    expect(kit.kit.name).toBe('Quay – Kick')
    expect([...server.kits.values()].map(one => one.kit.name)).toContain('Quay – Hat')
  })
})

describe('pads that are copied', () => {
  it('are pasted, in another kit as well, by what they need there', async () => {
    const kit = await opened()
    kit.edit('Put', state => setPads(placeSounds(state, 0, [testSound(1)]).kit, [0], { chokeGroup: 1 }))
    const clip = useClip()
    clip.copy()
    await kit.create(setPads(placeSounds(emptyKit('Other'), 0, [testSound(5)]).kit, [0], { chokeGroup: 1 }))
    kit.select(3)
    clip.paste()
    expect(kit.kit.pads[3]).toMatchObject({ name: 'Sound 1', chokeGroup: 2, note: 39 })
    expect(messages.at(-1)).toContain('Choke group 1 is 2 here.')
    kit.select(0)
    clip.duplicate()
    expect(kit.kit.pads[1]).toMatchObject({ name: 'Sound 5', note: 37 })
    kit.select(0)
    kit.select(3, 'toggle')
    clip.swap()
    expect([kit.kit.pads[0]!.name, kit.kit.pads[3]!.name]).toEqual(['Sound 1', 'Sound 5'])
    clip.cut()
    expect([kit.kit.pads[0]!.layers.length, kit.kit.pads[3]!.layers.length]).toEqual([0, 0])
  })

  it('come from a kit beside this one, which is played and stays as it is', async () => {
    const beside = server.add(placeSounds(emptyKit('Sun deck'), 2, [testSound(7)]).kit)
    const kit = await opened()
    await kit.create()
    const side = useSideKit()
    await side.open({ type: 'kit', id: beside.id })
    expect([side.filled, side.cursor]).toEqual([[2], 2])
    side.play(2, 90)
    expect(heard.notes).toEqual([[38, 90]])
    kit.select(5)
    expect(side.preview).toMatchObject({ first: 5, padIndexes: [5], replaced: [] })
    side.copy()
    expect(kit.kit.pads[5]).toMatchObject({ name: 'Sound 7', note: 41 })
    expect(messages.at(-1)).toBe('1 pad of "Sun deck" is on A6.')
    expect(server.kits.get(beside.id)!.revision).toBe(1)
    await side.close()
    expect([side.source, side.side, side.filled]).toEqual([undefined, undefined, []])
  })

  it('are selected with the current one, in a row, or all; copying says before what it replaces, and passes over what is taken', async () => {
    const beside = server.add(placeSounds(emptyKit('Sun deck'), 0, [1, 2, 3, 4, 5].map(number => testSound(number))).kit)
    const kit = await opened()
    await kit.create()
    const side = useSideKit()
    await side.open({ type: 'kit', id: beside.id })
    side.select(2, 'toggle')
    expect(side.selected).toEqual([0, 2])
    side.select(4, 'extend')
    expect(side.selected).toEqual([0, 2, 3, 4])
    side.select(3, 'toggle')
    expect(side.selected).toEqual([0, 2, 4])
    side.selectAll()
    expect(side.selected).toEqual([0, 1, 2, 3, 4])
    side.select(1)
    kit.edit('Put', now => placeSounds(now, 3, [testSound(9)]).kit)
    kit.select(3)
    expect(side.preview).toMatchObject({ first: 4, replaced: [] })
    side.place = 'over'
    expect(side.preview).toMatchObject({ first: 3, replaced: [3] })
    side.copy()
    expect(kit.kit.pads[3]!.name).toBe('Sound 2')
    await side.close()
  })

  it('does not open when it was closed while it was on its way', async () => {
    await opened()
    const beside = server.add(emptyKit('Sun deck'))
    const side = useSideKit()
    const opening = side.open({ type: 'kit', id: beside.id })
    await Promise.all([side.close(), opening])
    expect([side.source, side.side]).toEqual([undefined, undefined])
  })
})
