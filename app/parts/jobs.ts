import { defineStore } from 'pinia'
import { computed, shallowReactive } from 'vue'
import { EmporionError } from '~~/core/errors'
import { jobRoutes, type JobKind, type JobResults, type JobView } from '~~/contract/jobs'
import { api } from './useApi'
import { onReconnected, onServerEvent } from './useServerEvents'

const OVER = new Set(['done', 'failed', 'cancelled'])

/** Long work on the server, as it goes. */
export const useJobs = defineStore('jobs', () => {
  const byId = shallowReactive(new Map<string, JobView>())
  const waiters = new Map<string, (job: JobView) => void>()
  const active = computed(() => [...byId.values()].filter(job => !OVER.has(job.state)))

  function take(job: JobView): void {
    const known = byId.get(job.id)
    // A request may be answered after its end was announced.
    if (known && OVER.has(known.state) && !OVER.has(job.state)) return
    byId.set(job.id, job)
    if (!OVER.has(job.state)) return
    waiters.get(job.id)?.(job)
    waiters.delete(job.id)
  }

  onServerEvent((event) => {
    if (event.type === 'job') take(event.job)
  })
  onReconnected(() => void refresh())

  async function refresh(): Promise<void> {
    for (const job of await api(jobRoutes.list)) take(job)
  }

  /** Waits for the end of a job that was begun; gives its result. */
  async function finished<K extends JobKind>(begun: JobView<K>): Promise<JobResults[K]> {
    const ended = await new Promise<JobView>((resolve) => {
      waiters.set(begun.id, resolve)
      const known = byId.get(begun.id)
      if (known && OVER.has(known.state)) resolve(known)
      else {
        take(begun)
        // It may have ended before this page heard of it; while the server is away, what it tells on its return is waited for.
        void api(jobRoutes.read, { params: { id: begun.id } }).then(take, () => undefined)
      }
    })
    if (ended.state === 'cancelled') throw new EmporionError('cancelled', 'Cancelled.')
    if (ended.state === 'failed') throw new EmporionError('broken', ended.error ?? `${ended.title} failed.`)
    // A job that is done has the result of its kind.
    return ended.result as JobResults[K]
  }

  async function cancel(id: string): Promise<void> {
    await api(jobRoutes.cancel, { params: { id } })
  }

  return { active, byId, refresh, finished, cancel }
})
