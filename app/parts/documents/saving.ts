import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { toEmporionError } from '../useApi'
import { sayError } from '../useSay'

const RETRY_MS = 2_000
/** What was edited is on the screen before it is put together and sent; what follows at once is sent with it. */
const SHOWN_FIRST_MS = 40

export interface SavingOptions<T> {
  /** The state that is shown, and the id of what it is a state of. */
  readonly present: () => T
  readonly id: () => string | undefined
  /** Sends what changed between two states, building on a revision; gives the next one. */
  readonly send: (id: string, before: T, after: T, baseRevision: number) => Promise<{ readonly revision: number }>
  /** Somebody else changed or deleted it in the meantime: what is shown is kept as something of its own. */
  readonly onConflict: (state: T, elsewhere: 'changed' | 'deleted') => Promise<void>
}

const wait = (ms: number) => new Promise(resolve => setTimeout(resolve, ms))

/** Saves a document until what is stored is what is shown: one request at a time, each building on the one before. */
export function useSaving<T>({ present, id, send, onConflict }: SavingOptions<T>) {
  const saveState = ref<'saved' | 'saving' | 'waiting'>('saved')
  const savedAt = ref<Date>()
  let revision = 0
  let saved: T | undefined
  let saving: Promise<void> | undefined

  /** A state that is stored already, with its revision. */
  function isStored(state: T, atRevision: number, at: string): void {
    saved = state
    revision = atRevision
    saveState.value = 'saved'
    savedAt.value = new Date(at)
  }

  function hasUnsaved(): boolean {
    return saved !== undefined && saved !== present()
  }

  function save(): Promise<void> {
    saving ??= saveAll().finally(() => {
      saving = undefined
    })
    return saving
  }

  async function saveAll(): Promise<void> {
    while (hasUnsaved()) {
      saveState.value = 'saving'
      await wait(SHOWN_FIRST_MS)
      const state = present()
      try {
        const answer = await send(id()!, saved!, state, revision)
        revision = answer.revision
        saved = state
        savedAt.value = new Date()
      }
      catch (thrown) {
        const error = toEmporionError(thrown)
        if (error.code === 'conflict' || error.code === 'not-found') return onConflict(state, error.code === 'conflict' ? 'changed' : 'deleted')
        saveState.value = 'waiting'
        if (error.code !== 'broken') sayError(error)
        await wait(RETRY_MS)
      }
    }
    saveState.value = 'saved'
  }

  // Whoever leaves in that moment is asked first.
  useEventListener(window, 'beforeunload', (event) => {
    if (hasUnsaved()) event.preventDefault()
  })

  /** Waits until everything is stored. */
  async function settled(): Promise<void> {
    if (hasUnsaved()) await save()
  }

  return { saveState, savedAt, isStored, hasUnsaved, save, settled, revision: () => revision }
}
