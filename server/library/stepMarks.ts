import type { MarkAnswer } from '../../contract/marks'
import type { Studio } from '../studio/studio'
import { MOST_AT_ONCE, nextStep, redoMarks, undoMarks, whyNoStep } from './marks'
import { counted } from '../../core/wording'

/** Takes the last step back or does it again, by a job where it changed many sounds. */
export async function stepMarks({ db, jobs, events }: Pick<Studio, 'db' | 'jobs' | 'events'>, redo: boolean): Promise<MarkAnswer> {
  const next = await nextStep(db, redo)
  // Pressing a key once too often is no error.
  if (!next) return { nothing: whyNoStep(redo) }
  const { title, count } = next
  if (count > MOST_AT_ONCE) return { job: await jobs.add({ kind: 'unmark', redo, title: `${redo ? 'Do again' : 'Take back'} for ${counted(count, 'sound')}: ${title}` }) }
  const edit = await (redo ? redoMarks(db) : undoMarks(db))
  events.send({ type: 'library' })
  return { edit }
}
