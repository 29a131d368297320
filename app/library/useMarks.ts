import { markRoutes, type MarkAnswer, type MarkEdit } from '~~/contract/marks'
import { useJobs } from '../parts/jobs'
import { api } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'

/** What is to be set of sounds by hand; what is not named stays. */
export interface MarkWish {
  readonly kind?: string | null
  readonly addTags?: readonly string[]
  readonly removeTags?: readonly string[]
  readonly favourite?: boolean
  readonly note?: string
  readonly aside?: boolean
}

/** Sets what a person says of sounds, and takes it back. The list follows by itself. */
export function useMarks() {
  const jobs = useJobs()

  /** Gives true when it was done. Many sounds are set by a job, whose progress is shown. */
  async function set(ids: readonly number[], wish: MarkWish): Promise<boolean> {
    const edit = await done(() => api(markRoutes.set, { body: { ids, ...wish } }))
    if (edit) say(edit.count > 0 ? `Set for ${counted(edit.count, 'sound')}: ${edit.title}. Ctrl+Z takes it back.` : 'That is how it was already.')
    return edit !== undefined
  }

  async function undo(): Promise<void> {
    const edit = await done(() => api(markRoutes.undo))
    if (edit) say(`Taken back for ${counted(edit.count, 'sound')}: ${edit.title}.`)
  }

  async function redo(): Promise<void> {
    const edit = await done(() => api(markRoutes.redo))
    if (edit) say(`Done again for ${counted(edit.count, 'sound')}: ${edit.title}.`)
  }

  function done(ask: () => Promise<MarkAnswer>): Promise<MarkEdit | undefined> {
    return saying(async () => {
      const answer = await ask()
      if ('nothing' in answer) return void say(answer.nothing)
      return 'edit' in answer ? answer.edit : jobs.finished(answer.job)
    })
  }

  return { set, undo, redo }
}
