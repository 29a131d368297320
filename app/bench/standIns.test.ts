import { knownSound } from '~~/core/kit/parts'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { kitServer } from '../../tests/helpers/kitServer'
import { madeRow } from '../../tests/helpers/rows'
import { freshStores, asRequest, type Ask } from '../../tests/helpers/stores'
import type { StandIns } from '~~/contract/library'
import { emptyKit } from '../../core/kit/document'
import { placeSounds } from '../../core/kit/edits'
import { useKit } from './kit'
import { useStandIns } from './standIns'

const first = madeRow(1)
const second = madeRow(2)
const third = madeRow(3)
const edited = madeRow(4)
const named = madeRow(5)
const near = madeRow(6)
const nearness = { whole: 0.8, length: 1, colour: 1, pitch: 1 }
let server = kitServer()
let missing: string[] = []
let away: string[] = []
let answers: Record<string, StandIns> = {}
let alike: readonly typeof near[] = []
let isBroken = false
let onEvent: ((event: object) => void) | undefined

const ask: Ask = async (path, options) => {
  if (path === '/api/library/missing') return { missing: options?.body && 'onDisk' in (options.body as object) ? away : missing }
  if (path === '/api/library/stand-ins') return answers
  if (path !== '/api/sounds') return server.ask(path, options)
  if (isBroken) throw new Error('The server does not answer.')
  return { rows: alike.map(row => ({ ...row, nearness })) }
}

vi.mock('../parts/useApi', () => ({ api: (...all: Parameters<typeof asRequest>) => ask(...asRequest(...all)), toEmporionError: (thrown: unknown) => thrown }))
vi.mock('../parts/useServerEvents', () => ({ onServerEvent: (listener: typeof onEvent) => onEvent = listener, onReconnected: () => undefined, tabId: 'own' }))
vi.mock('../parts/useSay', () => ({ say: () => undefined, sayError: () => undefined }))
vi.mock('../sound/kitPlayer', () => ({
  KitPlayer: class {
    setKit = () => undefined
    stop = () => undefined
    retryMissing = () => undefined
  },
}))

/** Takes up a kit of three sounds, of which some are missing. */
async function opened(gone: readonly { hash: string }[]) {
  missing = gone.map(row => row.hash)
  const kit = useKit()
  await kit.create(placeSounds(emptyKit('Quay'), 0, [first, second, third].map(knownSound)).kit)
  await vi.waitFor(() => expect(kit.missingSounds.map(sound => sound.id)).toEqual(missing))
  return { kit, standIns: useStandIns() }
}

beforeEach(() => {
  vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined })
  vi.stubGlobal('window', new EventTarget())
  freshStores()
  server = kitServer()
  isBroken = false
  alike = []
  away = []
  answers = {
    [first.hash]: { comparableId: 1, folder: 'Deck', standIns: [{ reason: 'name', isSure: false, row: named }, { reason: 'file', isSure: true, row: edited }] },
    [second.hash]: { comparableId: 2, folder: 'Deck', standIns: [{ reason: 'name', isSure: false, row: named }] },
  }
})

afterEach(() => useKit().settled())

describe('other sounds for what is missing', () => {
  it('are chosen already where they are sure, and put on the pads of what is missing, as one edit', async () => {
    const { kit, standIns } = await opened([first, second])
    await standIns.open()
    expect(standIns.missing.map(({ sound, pads }) => [sound.id, pads])).toEqual([[first.hash, ['A1']], [second.hash, ['A2']]])
    expect(standIns.chosenCount).toBe(1)
    standIns.choose(second.hash, named)
    standIns.carryOut()
    expect(kit.kit.pads.slice(0, 3).map(pad => pad.layers[0]!.sound.id)).toEqual([edited.hash, named.hash, third.hash])
    expect(kit.missingSounds).toEqual([])
    kit.undo()
    expect(kit.kit.pads[0]!.layers[0]!.sound.id).toBe(first.hash)
    expect(kit.missingSounds).toHaveLength(2)
  })

  it('leave what is found again meanwhile in its place', async () => {
    const { kit, standIns } = await opened([first, second])
    await standIns.open()
    standIns.choose(second.hash, named)
    missing = [second.hash]
    onEvent!({ type: 'library' })
    await vi.waitFor(() => expect(standIns.missing).toHaveLength(1))
    standIns.carryOut()
    expect(kit.kit.pads.slice(0, 2).map(pad => pad.layers[0]!.sound.id)).toEqual([first.hash, named.hash])
  })

  it('are followed by what sounds alike, without itself, what is offered already and what is away, or tried again where that failed', async () => {
    const { standIns } = await opened([first])
    await standIns.open()
    isBroken = true
    await expect(standIns.findAlike(first.hash)).rejects.toThrow('does not answer')
    isBroken = false
    alike = [first, edited, third, near]
    away = [third.hash]
    await standIns.findAlike(first.hash)
    expect(standIns.offersFor(first.hash).map(({ row, reason }) => [reason, row.id])).toEqual([['name', named.id], ['file', edited.id], ['alike', near.id]])
    expect(standIns.offersFor(first.hash)[2]!.nearness).toBe(0.8)
  })
})
