import type { JobProgress } from '../../contract/jobs'

const WINDOW_MS = 4_000

/** Counts work done and works out its rate over the last seconds and the time left. */
export class ProgressMeter {
  private done = 0
  private bytes = 0
  private problems = 0
  private total: number | null = null
  private readings: { at: number, done: number }[] = []

  constructor(private readonly unit: string, private readonly now: () => number = () => performance.now()) {}

  setTotal(total: number): void {
    this.total = total
  }

  add(done: number, bytes = 0, problems = 0): void {
    this.done += done
    this.bytes += bytes
    this.problems += problems
    const at = this.now()
    this.readings.push({ at, done: this.done })
    while (this.readings.length > 2 && at - this.readings[0]!.at > WINDOW_MS) this.readings.shift()
  }

  /** The state now; `at` says what is being worked on. */
  progress(at: string): JobProgress {
    const first = this.readings[0]
    const last = this.readings.at(-1)
    const seconds = first && last ? (last.at - first.at) / 1000 : 0
    const rate = first && last && seconds > 0 ? (last.done - first.done) / seconds : 0
    return {
      done: this.done,
      total: this.total,
      unit: this.unit,
      bytes: this.bytes,
      rate,
      secondsLeft: this.total !== null && rate > 0 ? Math.max(0, this.total - this.done) / rate : null,
      at,
      problems: this.problems,
    }
  }
}
