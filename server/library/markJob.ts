import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { redoMarks, setMarks, undoMarks } from './marks'
import type { MarkEdit, MarkPatch } from '../../contract/marks'

/** The job that sets what a person says of many sounds. What was done when it is cancelled can be undone. */
export function markJob(patch: MarkPatch, said: string, context: JobContext): Promise<MarkEdit> {
  return withProgress(each => setMarks(context.db, patch, said, each), context)
}

/** The job that takes back what was set of many sounds, or does it again. */
export function unmarkJob(redo: boolean, context: JobContext): Promise<MarkEdit> {
  return withProgress(each => redo ? redoMarks(context.db, each) : undoMarks(context.db, each), context)
}

async function withProgress(work: (each: (done: number, total: number) => void) => Promise<MarkEdit>, context: JobContext): Promise<MarkEdit> {
  const meter = new ProgressMeter('sounds')
  let before = 0
  try {
    return await work((done, total) => {
      context.signal.throwIfAborted()
      meter.setTotal(total)
      meter.add(done - before)
      before = done
      context.report(meter.progress(''))
    })
  }
  finally {
    context.changed('library')
  }
}
