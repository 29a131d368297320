import { expect, it } from 'vitest'
import type { JobProgress } from '../../contract/jobs'
import { steeringOf } from './steering'

it('each stage of a job is counted for itself, and none passes its total', () => {
  const reported: JobProgress[] = []
  const { onStep } = steeringOf({ signal: new AbortController().signal, report: progress => reported.push(progress) }, 'samples')
  for (let done = 1; done <= 3; done++) onStep(done, 3, `read ${done}`, 10)
  for (let done = 1; done <= 2; done++) onStep(done, 2, `stored ${done}`, 10)
  expect(reported.map(({ done, total, bytes }) => [done, total, bytes])).toEqual([[1, 3, 10], [2, 3, 20], [3, 3, 30], [1, 2, 10], [2, 2, 20]])
})
