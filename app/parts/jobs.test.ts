import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { JobState, JobView } from '~~/contract/jobs'
import { asRequest, freshStores } from '../../tests/helpers/stores'
import { useJobs } from './jobs'

/** What the server knows of jobs, and how it tells pages of them. */
const server = vi.hoisted(() => ({ jobs: new Map<string, unknown>(), isAway: false, cancelled: [] as string[], tell: undefined as ((event: unknown) => void) | undefined, return: undefined as (() => void) | undefined }))

vi.mock('./useApi', () => ({
  api: async (...all: Parameters<typeof asRequest>) => {
    if (server.isAway) throw new Error('The server does not answer.')
    const [, , , id, act] = asRequest(...all)[0].split('/')
    if (act === 'cancel') return server.cancelled.push(id!)
    return id ? server.jobs.get(id) : [...server.jobs.values()]
  },
}))
vi.mock('./useServerEvents', () => ({ onServerEvent: (listener: (event: unknown) => void) => server.tell = listener, onReconnected: (listener: () => void) => server.return = listener }))

const job = (id: string, state: JobState, more: Partial<JobView<'redraw'>> = {}): JobView<'redraw'> => ({ id, kind: 'redraw', title: `Job ${id}`, state, progress: null, result: null, error: null, ...more })
const rest = () => new Promise(resolve => setTimeout(resolve))

beforeEach(() => {
  freshStores()
  Object.assign(server, { jobs: new Map(), isAway: false, cancelled: [] })
})

describe('long work on the server', () => {
  it('is waited for until it is told to have ended, and gives its result', async () => {
    const jobs = useJobs()
    server.jobs.set('a', job('a', 'running'))
    const result = jobs.finished(job('a', 'waiting'))
    await rest()
    expect(jobs.active.map(one => one.state)).toEqual(['running'])
    server.tell!({ type: 'job', job: job('a', 'done', { result: { sounds: 3 } }) })
    expect(await result).toEqual({ sounds: 3 })
    expect(jobs.active).toEqual([])
  })

  it('that ended before the page heard of it is known by asking', async () => {
    const jobs = useJobs()
    server.jobs.set('a', job('a', 'done', { result: { sounds: 7 } }))
    expect(await jobs.finished(job('a', 'waiting'))).toEqual({ sounds: 7 })
    server.tell!({ type: 'job', job: job('b', 'done', { result: { sounds: 8 } }) })
    expect(await jobs.finished(job('b', 'running'))).toEqual({ sounds: 8 })
  })

  it('that fails says why, and that it was cancelled when it was', async () => {
    const jobs = useJobs()
    server.jobs.set('a', job('a', 'failed', { error: 'The disk is full.' }))
    await expect(jobs.finished(job('a', 'waiting'))).rejects.toMatchObject({ code: 'broken', message: 'The disk is full.' })
    server.jobs.set('b', job('b', 'failed'))
    await expect(jobs.finished(job('b', 'waiting'))).rejects.toThrow('Job b failed.')
    server.jobs.set('c', job('c', 'cancelled'))
    await expect(jobs.finished(job('c', 'waiting'))).rejects.toMatchObject({ code: 'cancelled' })
  })

  it('goes on to be waited for while the server is away, and is asked for on its return', async () => {
    const jobs = useJobs()
    server.isAway = true
    const result = jobs.finished(job('a', 'running'))
    await rest()
    server.isAway = false
    server.jobs.set('a', job('a', 'done', { result: { sounds: 9 } }))
    server.return!()
    expect(await result).toEqual({ sounds: 9 })
  })

  it('stays at its end, whatever is told of it later from before', async () => {
    const jobs = useJobs()
    server.jobs.set('a', job('a', 'running'))
    const result = jobs.finished(job('a', 'waiting'))
    // The answer to what was just asked is still on its way.
    server.tell!({ type: 'job', job: job('a', 'done', { result: { sounds: 3 } }) })
    expect(await result).toEqual({ sounds: 3 })
    await rest()
    expect(jobs.active).toEqual([])
  })

  it('of others is shown too, and any is cancelled by its id', async () => {
    const jobs = useJobs()
    server.tell!({ type: 'library' })
    server.tell!({ type: 'job', job: job('x', 'running') })
    expect(jobs.active.map(one => one.id)).toEqual(['x'])
    await jobs.cancel('x')
    expect(server.cancelled).toEqual(['x'])
  })
})
