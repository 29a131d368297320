import { describe, expect, it } from 'vitest'
import { ProgressMeter } from './meter'

describe('progress', () => {
  it('gives the rate of the last seconds and the time left at that rate', () => {
    let now = 0
    const meter = new ProgressMeter('files', () => now)
    meter.setTotal(100)
    for (let i = 0; i < 50; i++) {
      now += 100
      meter.add(1, 10)
    }
    const progress = meter.progress('a.wav')
    expect(progress).toMatchObject({ done: 50, total: 100, bytes: 500, at: 'a.wav' })
    expect(progress.rate).toBeCloseTo(10)
    expect(progress.secondsLeft).toBeCloseTo(5)
  })
})
