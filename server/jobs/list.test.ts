import { describe, expect, it } from 'vitest'
import { withoutEquals } from './list'
import type { JobView } from '../../contract/jobs'

describe('a list of jobs', () => {
  const job = (id: string, view: Partial<JobView<'scan'>> = {}): JobView => ({ id, kind: 'scan', title: 'Scan Pier', state: 'done', progress: null, result: null, error: null, ...view })

  it('shows the last of those that ended alike, with their count', () => {
    const listed = withoutEquals([job('5'), job('4', { state: 'failed', error: 'Away.' }), job('3'), job('2', { title: 'Scan Deck' }), job('1')])
    expect(listed.map(({ id, count }) => [id, count])).toEqual([['5', 3], ['4', 1], ['2', 1]])
  })

  it('never puts together those that wait or run', () => {
    expect(withoutEquals([job('3', { state: 'waiting' }), job('2', { state: 'running' }), job('1', { state: 'running' })])).toHaveLength(3)
  })
})
