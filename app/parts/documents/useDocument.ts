import { computed, ref, shallowRef } from 'vue'
import type { StudioEvent } from '~~/contract/events'
import { differenceOf, type Difference } from '~~/core/document/difference'
import { entriesOf, record, redo as redoStep, startHistory, stepBy, undo as undoStep, type History } from '~~/core/document/history'
import { onReconnected, onServerEvent, tabId } from '../useServerEvents'
import { keepHistory, recallHistory, type Shelf } from './histories'
import { useSaving, type SavingOptions } from './saving'

/** A document as the server has it. */
export interface StoredDocument<T> {
  readonly id: string
  readonly state: T
  readonly revision: number
  readonly savedAt: string
  /** Version of the document where a newer Emporion wrote it: then nothing is changed. */
  readonly writtenBy?: number | null
}

/** An edit on its way to the server. */
export interface SentEdit {
  readonly difference: Difference
  readonly baseRevision: number
  /** The tab that made it. */
  readonly from: string
}

export interface DocumentOptions<T> {
  /** What is shown until one is open. */
  readonly empty: T
  /** Where its steps are kept in this browser. */
  readonly shelf: Shelf<T>
  readonly send: (id: string, edit: SentEdit) => Promise<{ readonly revision: number }>
  /** The document as it is now; undefined where it is gone. */
  readonly fetch: (id: string) => Promise<StoredDocument<T> | undefined>
  /** Which document an event says was changed, at which revision and from which tab. */
  readonly changeIn: (event: StudioEvent) => { readonly id: string, readonly revision: number, readonly from: string } | undefined
  /** It was changed or deleted elsewhere in the meantime: what is shown is kept as something of its own. */
  readonly onConflict: SavingOptions<T>['onConflict']
  /** Called with every state that is shown because of an edit, before it is saved. Gives false where it is not to be. */
  readonly onEdited: (state: T) => unknown
  /** Called when another tab's state is shown. */
  readonly onFollowed?: () => void
}

/**
 * A document that is open: its steps with undo, its saving by what changed, the edits of other tabs, and nothing at all where a newer
 * Emporion wrote it. Documents are immutable: an edit is another object, and what it does not touch stays the same.
 */
export function useDocument<T>({ empty, shelf, send, fetch, changeIn, onConflict, onEdited, onFollowed }: DocumentOptions<T>) {
  const id = ref<string>()
  const history = shallowRef<History<T>>(startHistory(empty))
  const writtenBy = ref<number | null>(null)
  const present = computed(() => history.value.present)
  const canUndo = computed(() => history.value.past.at(-1)?.label)
  const canRedo = computed(() => history.value.future[0]?.label)
  const steps = computed(() => entriesOf(history.value))
  const { saveState, savedAt, isStored, hasUnsaved, save, settled, revision } = useSaving<T>({
    present: () => present.value,
    id: () => id.value,
    send: (to, before, after, baseRevision) => send(to, { difference: differenceOf(before, after), baseRevision, from: tabId }),
    onConflict,
  })

  onServerEvent((event) => {
    const changed = changeIn(event)
    if (changed && changed.id === id.value && changed.from !== tabId) void follow(changed.revision)
  })
  onReconnected(() => void (hasUnsaved() ? save() : follow(Infinity)))

  /** The steps that this browser keeps of a document, where they end in its state. */
  function recall({ id: of, state }: StoredDocument<T>): Promise<History<T>> {
    return recallHistory(shelf, of, state)
  }

  /** Shows a document in place of the one that is open. */
  function take(stored: StoredDocument<T>, recalled: History<T> = startHistory(stored.state)): void {
    id.value = stored.id
    history.value = recalled
    writtenBy.value = stored.writtenBy ?? null
    isStored(recalled.present, stored.revision, stored.savedAt)
  }

  /** What is shown belongs to another document from now on, which has one of its states. */
  function moveTo({ id: to, state, revision: at, savedAt: when }: StoredDocument<T>): Promise<void> {
    id.value = to
    isStored(state, at, when)
    keepHistory(shelf, to, history.value)
    return save()
  }

  /** Records an edit. Edits that share a `gesture` are undone as one. */
  function edit(next: T, label: string, gesture?: string): void {
    show(record(history.value, next, label, gesture))
  }

  function show(next: History<T>): void {
    if (next === history.value) return
    history.value = next
    if (onEdited(next.present) === false) return
    if (id.value) keepHistory(shelf, id.value, next)
    void save()
  }

  /** Takes back what a gesture has done so far, as if it had not been begun. */
  function takeBack(gesture: string): void {
    if (history.value.past.at(-1)?.gesture === gesture) show({ ...undoStep(history.value), future: [] })
  }

  /** Another tab saved it: this one shows it, unless it has edits of its own to save first. */
  async function follow(toRevision: number): Promise<void> {
    if (!id.value || toRevision <= revision() || hasUnsaved()) return
    const stored = await fetch(id.value).catch(() => undefined)
    if (!stored || stored.id !== id.value || stored.revision <= revision() || hasUnsaved()) return
    history.value = record(history.value, stored.state, 'Edit in another tab')
    isStored(history.value.present, stored.revision, stored.savedAt)
    onFollowed?.()
  }

  return {
    id, history, present, writtenBy, canUndo, canRedo, steps, saveState, savedAt, settled, recall, take, moveTo, edit, takeBack,
    undo: () => show(undoStep(history.value)),
    redo: () => show(redoStep(history.value)),
    /** Goes to another state of the history, so many steps away. */
    stepTo: (offset: number) => show(stepBy(history.value, offset)),
  }
}
