import { tidyLibrary } from '../db/upkeep'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { redrawSource } from './sources'

/** The job that draws the rows of a source's sounds, or of one folder's, together anew. */
export async function redraw({ sourceId, folder }: { readonly sourceId: number, readonly folder: string }, context: JobContext): Promise<{ sounds: number }> {
  const meter = new ProgressMeter('sounds')
  let before = 0
  try {
    const sounds = await redrawSource(context.db, sourceId, folder, (done, total) => {
      context.signal.throwIfAborted()
      meter.setTotal(total)
      meter.add(done - before, 0, 0)
      before = done
      context.report(meter.progress(folder))
    })
    await tidyLibrary(context.db)
    return { sounds }
  }
  finally {
    context.changed('library')
  }
}
