import { beforeEach, describe, expect, it, vi } from 'vitest'
import { EmporionError } from '../../../core/errors'
import { useSaving, type SavingOptions } from './saving'

const messages: string[] = []
vi.mock('../useApi', () => ({ toEmporionError: (thrown: unknown) => thrown }))
vi.mock('../useSay', () => ({ sayError: (thrown: Error) => messages.push(thrown.message) }))

type Sent = readonly [before: number, after: number, baseRevision: number]

/** A document that is a number, and a server that answers as it is set. */
function document(answer: (sent: Sent) => Promise<{ revision: number }> = async ([, , base]) => ({ revision: base + 1 })) {
  const sent: Sent[] = []
  const kept: (readonly [number, string])[] = []
  const state = { now: 1 }
  const options: SavingOptions<number> = {
    present: () => state.now,
    id: () => 'one',
    send: (_id, ...all) => {
      sent.push(all)
      return answer(all)
    },
    onConflict: async (lost, elsewhere) => {
      kept.push([lost, elsewhere])
      saving.isStored(lost, 1, '2026-01-01T00:00:00Z')
    },
  }
  const saving = useSaving(options)
  saving.isStored(1, 7, '2026-01-01T00:00:00Z')
  return { saving, state, sent, kept }
}

beforeEach(() => {
  messages.length = 0
  vi.useFakeTimers()
  vi.stubGlobal('window', new EventTarget())
  return () => vi.useRealTimers()
})

describe('saving a document', () => {
  it('sends nothing while nothing was edited', async () => {
    const { saving, sent } = document()
    await saving.settled()
    expect(sent).toEqual([])
    expect(saving.saveState.value).toBe('saved')
  })

  it('shows an edit first, and sends what follows at once along with it', async () => {
    const { saving, state, sent } = document()
    state.now = 2
    const saved = saving.save()
    expect([saving.saveState.value, sent.length]).toEqual(['saving', 0])
    state.now = 3
    void saving.save()
    await vi.runAllTimersAsync()
    await saved
    expect(sent).toEqual([[1, 3, 7]])
    expect([saving.saveState.value, saving.hasUnsaved(), saving.revision()]).toEqual(['saved', false, 8])
  })

  it('sends what was edited meanwhile after what is under way, building on it', async () => {
    let answer: (() => void) | undefined
    const { saving, state, sent } = document(([, , base]) => new Promise(resolve => answer = () => resolve({ revision: base + 1 })))
    state.now = 2
    const saved = saving.save()
    await vi.runAllTimersAsync()
    state.now = 5
    void saving.save()
    expect(sent).toEqual([[1, 2, 7]])
    answer!()
    await vi.runAllTimersAsync()
    answer!()
    await saved
    expect(sent).toEqual([[1, 2, 7], [2, 5, 8]])
    expect(saving.savedAt.value!.getTime()).toBe(Date.now())
  })

  it('tries again until the server is there, keeping what is shown', async () => {
    let isAway = true
    const { saving, state, sent } = document(async ([, , base]) => {
      if (isAway) throw new EmporionError('broken', 'The server does not answer.')
      return { revision: base + 1 }
    })
    state.now = 2
    const saved = saving.save()
    await vi.advanceTimersByTimeAsync(1000)
    expect(saving.saveState.value).toBe('waiting')
    expect(messages).toEqual([])
    state.now = 4
    isAway = false
    await vi.runAllTimersAsync()
    await saved
    expect(sent.map(([, after]) => after)).toEqual([2, 4])
    expect(saving.saveState.value).toBe('saved')
  })

  it('says why it is refused, and goes on trying', async () => {
    let isFull = true
    const { saving, state } = document(async ([, , base]) => {
      if (isFull) throw new EmporionError('disk-full', 'The disk is full.')
      return { revision: base + 1 }
    })
    state.now = 2
    const saved = saving.save()
    await vi.advanceTimersByTimeAsync(100)
    expect(messages).toEqual(['The disk is full.'])
    expect(saving.hasUnsaved()).toBe(true)
    isFull = false
    await vi.runAllTimersAsync()
    await saved
    expect(saving.hasUnsaved()).toBe(false)
  })

  it('asks whoever leaves with something that is not saved yet', async () => {
    const { saving, state } = document()
    const leave = () => window.dispatchEvent(new Event('beforeunload', { cancelable: true }))
    expect(leave()).toBe(true)
    state.now = 2
    const saved = saving.save()
    expect(leave()).toBe(false)
    await vi.runAllTimersAsync()
    await saved
    expect(leave()).toBe(true)
  })

  it.each([['conflict', 'changed'], ['not-found', 'deleted']] as const)('keeps what is shown where it is refused as %s: somebody else %s it', async (code, elsewhere) => {
    const { saving, state, kept, sent } = document(async () => {
      throw new EmporionError(code, 'Not that any more.')
    })
    state.now = 2
    const saved = saving.save()
    await vi.runAllTimersAsync()
    await saved
    expect(kept).toEqual([[2, elsewhere]])
    expect(sent).toHaveLength(1)
    expect(messages).toEqual([])
  })
})
