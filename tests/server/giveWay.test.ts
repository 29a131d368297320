import { readdirSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
import type { JobView } from '../../contract/jobs'
import { freshFolder, put, waveOf } from '../helpers/folder'
import { startServer } from '../helpers/server'

/** Niceness of each thread of a process. Source: proc(5), field 19 of a task's `stat`; a name in brackets may hold anything. */
function niceness(pid: number): Map<string, number> {
  return new Map(readdirSync(`/proc/${pid}/task`).flatMap((thread) => {
    try {
      const [, fields] = readFileSync(`/proc/${pid}/task/${thread}/stat`, 'utf8').split(/\) (?!.*\) )/s)
      return [[thread, Number(fields!.split(' ')[16])] as const]
    }
    catch {
      // It has ended in the meantime.
      return []
    }
  }))
}

it('while a scan runs, the threads that measure give way to those that answer', async () => {
  const samples = freshFolder()
  for (let i = 0; i < 300; i++) put(samples, `Hull/Knock ${i}.wav`, waveOf(100 + i, 20_000))
  const server = await startServer({ data: freshFolder(), roots: [samples] })
  try {
    // Whoever runs the tests may have been told to give way as a whole.
    const own = niceness(server.pid).get(String(server.pid))!
    expect([...niceness(server.pid).values()].every(value => value === own)).toBe(true)
    const job = await server.api<JobView>('/api/sources', { method: 'POST', body: { path: samples } })
    let isScanning = true
    const ended = server.ended(job).finally(() => isScanning = false)
    const seen = new Map<string, number>()
    while (isScanning) {
      for (const [thread, value] of niceness(server.pid)) seen.set(thread, value)
      await new Promise(done => setTimeout(done, 20))
    }
    expect((await ended).state).toBe('done')
    expect([...seen.values()].filter(value => value === Math.max(5, own)).length).toBeGreaterThan(0)
    expect([...seen.values()].filter(value => value === own).length).toBeGreaterThan(2)
    expect(seen.get(String(server.pid))).toBe(own)
  }
  finally {
    await server.stop()
  }
})
