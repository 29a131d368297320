import { ProgressMeter } from '../jobs/meter'
import type { JobContext } from '../jobs/context'
import type { Steering } from './loadedKit'

/** Reports the steps of a job. One that begins to count anew has come to its next stage, which is counted for itself. */
export function steeringOf({ signal, report }: Pick<JobContext, 'signal' | 'report'>, unit: string): Steering {
  let meter = new ProgressMeter(unit)
  let before = 0
  return {
    signal,
    onStep: (done, total, at, bytes) => {
      if (done < before) {
        meter = new ProgressMeter(unit)
        before = 0
      }
      meter.setTotal(total)
      meter.add(done - before, bytes)
      before = done
      report(meter.progress(at))
    },
  }
}
