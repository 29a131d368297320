import { describe, expect, it } from 'vitest'
import type { Analysis } from './analyse'
import { analyseBatch, LargeFiles, type AnalysisPool } from './pool'

const fine = (path: string): Analysis => ({ error: `read ${path}` })

describe('a batch of files', () => {
  it('a worker that dies costs one file, which is named with the reason; the others are read', async () => {
    const pool: AnalysisPool = {
      run: ({ paths }) => paths.includes('deadly.wav') ? Promise.reject(new Error('worker exited with code 134')) : Promise.resolve(paths.map(fine)),
    }
    const found = await analyseBatch(pool, { paths: ['a.wav', 'deadly.wav', 'b.wav'], roots: ['/'] }, new AbortController().signal)
    expect(found).toEqual([fine('a.wav'), { error: expect.stringContaining('worker exited with code 134') }, fine('b.wav')])
  })

  it('what is cancelled is not tried again', async () => {
    const controller = new AbortController()
    let runs = 0
    const pool: AnalysisPool = {
      run: () => {
        runs++
        controller.abort(new Error('cancelled'))
        return Promise.reject(new Error('aborted'))
      },
    }
    await expect(analyseBatch(pool, { paths: ['a.wav', 'b.wav'], roots: ['/'] }, controller.signal)).rejects.toThrow('cancelled')
    expect(runs).toBe(1)
  })
})

describe('large files', () => {
  it('are read one at a time, in their order, while small ones go on beside them; a failure holds up none', async () => {
    const large = new LargeFiles(100)
    const running = new Set<string>()
    const ended: string[] = []
    let most = 0
    const work = (name: string) => async () => {
      running.add(name)
      most = Math.max(most, running.size)
      await new Promise(resolve => setTimeout(resolve, 5))
      running.delete(name)
      ended.push(name)
      if (name === 'bad') throw new Error('bad')
    }
    const all = await Promise.allSettled([large.run([500], work('one')), large.run([100], work('bad')), large.run([1, 300], work('three'))])
    expect(most).toBe(1)
    expect(ended).toEqual(['one', 'bad', 'three'])
    expect(all.map(result => result.status)).toEqual(['fulfilled', 'rejected', 'fulfilled'])
    await Promise.all([large.run([5], work('small')), large.run([6], work('other'))])
    expect(most).toBe(2)
  })
})
