import type { MarkAnswer } from '../../contract/marks'
import type { JobView } from '../../contract/jobs'
import type { StudioEvents } from '../base/events'
import type { Database } from '../db/open'
import { MOST_AT_ONCE, nextStep, redoMarks, undoMarks, whyNoStep } from './marks'
import { counted } from '../../core/wording'

interface Places {
  readonly db: Database
  readonly events: Pick<StudioEvents, 'send'>
  readonly jobs: { readonly add: (request: { readonly kind: 'unmark', readonly redo: boolean, readonly title: string }) => Promise<JobView<'unmark'>> }
}

/** Takes the last step back or does it again, by a job where it changed many sounds. */
export async function stepMarks({ db, jobs, events }: Places, redo: boolean): Promise<MarkAnswer> {
  const next = await nextStep(db, redo)
  // Pressing a key once too often is no error.
  if (!next) return { nothing: whyNoStep(redo) }
  const { title, count } = next
  if (count > MOST_AT_ONCE) return { job: await jobs.add({ kind: 'unmark', redo, title: `${redo ? 'Do again' : 'Take back'} for ${counted(count, 'sound')}: ${title}` }) }
  const edit = await (redo ? redoMarks(db) : undoMarks(db))
  events.send({ type: 'library' })
  return { edit }
}
