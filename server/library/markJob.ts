import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { JobRequest } from '../jobs/types'
import { redoMarks, setMarks, undoMarks } from './marks'
import type { MarkEdit } from '../../contract/marks'

/** The job that sets what a person says of many sounds, takes it back, or does it again. What was done when it is cancelled can be undone. */
export async function markJob(asked: JobRequest & { readonly kind: 'mark' | 'unmark' }, context: JobContext): Promise<MarkEdit> {
  const meter = new ProgressMeter('sounds')
  let before = 0
  const each = (done: number, total: number) => {
    context.signal.throwIfAborted()
    meter.setTotal(total)
    meter.add(done - before)
    before = done
    context.report(meter.progress(''))
  }
  try {
    if (asked.kind === 'mark') return await setMarks(context.db, asked.patch, asked.said, each)
    return await (asked.redo ? redoMarks(context.db, each) : undoMarks(context.db, each))
  }
  finally {
    context.changed('library')
  }
}
