import { beforeEach, describe, expect, it, vi } from 'vitest'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores, asRequest, type Ask } from '../../tests/helpers/stores'
import { useTray } from './tray'

let asked: { path: string, method: string, body: unknown }[] = []
let isBroken = false
/** The trays that the server knows. */
let listed = [1, 2]
let kept: { row: ReturnType<typeof madeRow>, note: string }[] = []
const messages: unknown[] = []
/** Held back by a test: what is asked from then on is answered when it is let go. */
let gate: Promise<void> | undefined
let onTray: ((event: object) => void) | undefined

/** Holds back all answers; gives what releases all. */
function hold(): () => void {
  let letGo: () => void = () => undefined
  gate = new Promise(resolve => letGo = resolve)
  return () => {
    gate = undefined
    letGo()
  }
}

const soon = () => new Promise(resolve => setTimeout(resolve))

const ask: Ask = async (path, { method = 'GET', body } = {}) => {
  const held = kept
  if (gate) await gate
  if (method !== 'GET') {
    asked.push({ path, method, body })
    if (isBroken) throw new Error('The server does not answer.')
  }
  if (path === '/api/trays') return method === 'POST' ? { id: 2, name: 'Other', count: 0 } : listed.map(id => ({ id, name: id === 1 ? 'Tray' : 'Other', count: kept.length }))
  return held
}

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => ask(...asRequest(...all)) }))
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: (listener: typeof onTray) => onTray = listener, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ sayError: (thrown: unknown) => messages.push(thrown) }))

beforeEach(() => {
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  asked = []
  messages.length = 0
  isBroken = false
  kept = []
  gate = undefined
  listed = [1, 2]
})

const names = (tray: ReturnType<typeof useTray>) => tray.sounds.map(row => row.id)

describe('the tray', () => {
  it('takes each sound once and tells how many were new', async () => {
    const tray = useTray()
    await tray.load()
    expect(await tray.add([madeRow(1), madeRow(2), madeRow(1)])).toBe(2)
    expect(await tray.add([madeRow(2), madeRow(3)])).toBe(1)
    expect(await tray.add([madeRow(3)])).toBe(0)
    expect(names(tray)).toEqual([1, 2, 3])
    expect(asked.map(({ path, method }) => `${method} ${path}`)).toEqual(['POST /api/trays/1/sounds', 'POST /api/trays/1/sounds'])
    expect(tray.tray?.count).toBe(3)
  })

  it('keeps an order and notes, and the server is told all of it', async () => {
    const tray = useTray()
    await tray.load()
    await tray.add([madeRow(1), madeRow(2), madeRow(3)])
    tray.moveTo(2)
    await tray.move(-1)
    await tray.note(madeRow(3).hash, 'for the verse')
    expect(names(tray)).toEqual([1, 3, 2])
    expect(tray.cursor).toBe(1)
    const hash = (id: number) => madeRow(id).hash
    expect(asked.slice(1).map(({ body }) => body)).toEqual([
      { change: { type: 'move', hash: hash(3), before: hash(2) }, from: 'own' },
      { change: { type: 'note', hash: hash(3), note: 'for the verse' }, from: 'own' },
    ])
    await tray.move(1)
    expect(names(tray)).toEqual([1, 2, 3])
    expect(asked.at(-1)!.body).toMatchObject({ change: { type: 'move', hash: hash(3), before: null } })
    tray.moveTo(0)
    await tray.move(-1)
    expect(names(tray)).toEqual([1, 2, 3])
  })

  it('takes sounds off, and the cursor stays on it', async () => {
    const tray = useTray()
    await tray.load()
    await tray.add([madeRow(1), madeRow(2), madeRow(3)])
    tray.moveTo(2)
    await tray.remove(new Set([madeRow(2).hash, madeRow(3).hash]))
    expect([names(tray), tray.cursor]).toEqual([[1], 0])
  })

  it('is told of changes one after the other, and shows none of what was answered from before them', async () => {
    const tray = useTray()
    await tray.load()
    const letGo = hold()
    const loaded = tray.load()
    await soon()
    const added = tray.add([madeRow(1), madeRow(2)])
    const noted = tray.note(madeRow(2).hash, 'low')
    const leave = () => window.dispatchEvent(new Event('beforeunload', { cancelable: true }))
    expect(leave()).toBe(false)
    letGo()
    await loaded
    expect(names(tray)).toEqual([1, 2])
    kept = [madeRow(1), madeRow(2)].map(row => ({ row, note: row.id === 2 ? 'low' : '' }))
    await Promise.all([added, noted])
    await soon()
    expect(leave()).toBe(true)
    expect(asked.map(({ method }) => method)).toEqual(['POST', 'PATCH'])
    expect(tray.items.map(item => item.note)).toEqual(['', 'low'])
  })

  it('taken to hand shows nothing of the one before, and what was changed there goes there', async () => {
    const tray = useTray()
    kept = [{ row: madeRow(7), note: '' }]
    await tray.load()
    const letGo = hold()
    const added = tray.add([madeRow(8)])
    const opened = tray.open(2)
    expect(names(tray)).toEqual([])
    kept = []
    letGo()
    await Promise.all([added, opened])
    expect([tray.tray?.id, names(tray)]).toEqual([2, []])
    expect(asked.map(({ path }) => path)).toEqual(['/api/trays/1/sounds'])
  })

  it('is at hand as soon as it is made: what is put on it goes there', async () => {
    const tray = useTray()
    listed = [1]
    await tray.load()
    const made = tray.create('Other')
    let letGo = hold()
    await soon()
    expect(tray.tray).toMatchObject({ id: 2, name: 'Other' })
    const added = tray.add([madeRow(8)])
    listed = [1, 2]
    letGo()
    await Promise.all([made, added])
    expect(asked.at(-1)!.path).toBe('/api/trays/2/sounds')
    const gone = tray.removeTray()
    letGo = hold()
    await soon()
    expect(tray.tray).toMatchObject({ id: 1 })
    letGo()
    await gone
  })

  it('takes over what another tab put on it, and leaves chosen what is still there', async () => {
    const tray = useTray()
    kept = [madeRow(1), madeRow(2)].map(row => ({ row, note: '' }))
    await tray.load()
    tray.moveTo(1)
    tray.toggle(madeRow(1).hash)
    tray.toggle(madeRow(2).hash)
    kept = [madeRow(2), madeRow(3)].map(row => ({ row, note: '' }))
    onTray!({ type: 'tray', trayId: 1, from: 'other' })
    await soon()
    await soon()
    expect([names(tray), tray.cursor, tray.chosenRows.map(row => row.id)]).toEqual([[2, 3], 1, [2]])
  })

  it('goes back to what is kept when it could not be saved', async () => {
    const tray = useTray()
    kept = [{ row: madeRow(7), note: '' }]
    await tray.load()
    isBroken = true
    await tray.add([madeRow(8)])
    expect(messages).toHaveLength(1)
    expect(names(tray)).toEqual([7])
  })

  it('counts kinds by their uppermost, the most first', async () => {
    const tray = useTray()
    await tray.load()
    await tray.add([madeRow(1), madeRow(2, { kind: 'hat.open' }), madeRow(3, { kind: 'hat.closed' }), madeRow(4, { kind: null })])
    expect(tray.kinds).toEqual([['hat', 2], ['kick', 1], ['none', 1]])
  })

  it('gives what is chosen in its order, or what is at the cursor', async () => {
    const tray = useTray()
    await tray.load()
    await tray.add([madeRow(1), madeRow(2), madeRow(3)])
    expect(tray.chosenRows.map(row => row.id)).toEqual([1])
    tray.toggle(madeRow(3).hash)
    tray.toggle(madeRow(1).hash)
    expect(tray.chosenRows.map(row => row.id)).toEqual([1, 3])
    tray.toggle(madeRow(3).hash)
    expect(tray.chosenRows.map(row => row.id)).toEqual([1])
  })
})
