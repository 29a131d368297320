import { beforeEach, describe, expect, it, vi } from 'vitest'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores, type Ask } from '../../tests/helpers/stores'
import { useTray } from './tray'

let asked: { path: string, method: string, body: unknown }[] = []
let isBroken = false
let kept: { row: ReturnType<typeof madeRow>, note: string }[] = []
const told: unknown[] = []

const ask: Ask = async (path, { method = 'GET', body } = {}) => {
  if (method !== 'GET') {
    asked.push({ path, method, body })
    if (isBroken) throw new Error('The server does not answer.')
  }
  if (path === '/api/trays') return method === 'POST' ? { id: 2, name: 'Other', count: 0 } : [{ id: 1, name: 'Tray', count: kept.length }, { id: 2, name: 'Other', count: 0 }]
  return kept
}

vi.mock('../composables/useApi', () => ({ api: (...all: Parameters<Ask>) => ask(...all) }))
vi.mock('../composables/useServerEvents', () => ({ onServerEvent: () => undefined, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../composables/useSay', () => ({ sayError: (thrown: unknown) => told.push(thrown) }))

beforeEach(() => {
  freshStores()
  asked = []
  told.length = 0
  isBroken = false
  kept = []
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
    expect(asked.at(-1)!.body).toEqual({ items: [[1, ''], [3, 'for the verse'], [2, '']].map(([id, note]) => ({ hash: madeRow(Number(id)).hash, note })), from: 'own' })
    tray.moveTo(0)
    await tray.move(-1)
    expect(names(tray)).toEqual([1, 3, 2])
  })

  it('takes sounds off, and the cursor stays on it', async () => {
    const tray = useTray()
    await tray.load()
    await tray.add([madeRow(1), madeRow(2), madeRow(3)])
    tray.moveTo(2)
    await tray.remove(new Set([madeRow(2).hash, madeRow(3).hash]))
    expect([names(tray), tray.cursor]).toEqual([[1], 0])
  })

  it('goes back to what is kept when it could not be saved', async () => {
    const tray = useTray()
    kept = [{ row: madeRow(7), note: '' }]
    await tray.load()
    isBroken = true
    await tray.add([madeRow(8)])
    expect(told).toHaveLength(1)
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
