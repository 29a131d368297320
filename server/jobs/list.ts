import type { JobState, JobView, ListedJob } from '../../contract/jobs'

const ENDED: ReadonlySet<JobState> = new Set(['done', 'failed', 'cancelled'])

/** Jobs that ended alike (same work, same title, same end) as one: the last of them, with how many there were. */
export function withoutEquals(newestFirst: readonly JobView[]): ListedJob[] {
  const listed = new Map<string, ListedJob>()
  for (const job of newestFirst) {
    const key = ENDED.has(job.state) ? JSON.stringify([job.kind, job.title, job.state, job.error]) : job.id
    const last = listed.get(key)
    listed.set(key, last ? { ...last, count: last.count + 1 } : { ...job, count: 1 })
  }
  return [...listed.values()]
}
