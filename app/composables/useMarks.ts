import type { MarkEdit } from '~~/server/library/marks'
import { api } from './useApi'
import { counted } from './useFormat'
import { say, saying } from './useSay'

/** What is to be set of sounds by hand; what is not named stays. */
export interface MarkWish {
  readonly kind?: string | null
  readonly addTags?: readonly string[]
  readonly removeTags?: readonly string[]
  readonly favourite?: boolean
  readonly note?: string
}

/** Sets what a person says of sounds, and takes it back. The list follows by itself. */
export function useMarks() {
  /** Gives true when it was done. */
  async function set(ids: readonly number[], wish: MarkWish): Promise<boolean> {
    const edit = await saying(() => api<MarkEdit>('/api/marks', { method: 'POST', body: { ids, ...wish } }))
    if (edit) say(edit.count > 0 ? `Set for ${counted(edit.count, 'sound')}: ${edit.title}. Ctrl+Z takes it back.` : 'That is how it was already.')
    return edit !== undefined
  }

  async function undo(): Promise<void> {
    const edit = await saying(() => api<MarkEdit>('/api/marks/undo', { method: 'POST' }))
    if (edit) say(`Taken back for ${counted(edit.count, 'sound')}: ${edit.title}.`)
  }

  async function redo(): Promise<void> {
    const edit = await saying(() => api<MarkEdit>('/api/marks/redo', { method: 'POST' }))
    if (edit) say(`Done again for ${counted(edit.count, 'sound')}: ${edit.title}.`)
  }

  return { set, undo, redo }
}
