import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defer } from './useDeferred'

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => {
  vi.useRealTimers()
})

/** What was done in each of the next tasks. */
function tasks(done: string[]): string[][] {
  const each: string[][] = []
  while (vi.getTimerCount() > 0) {
    vi.advanceTimersToNextTimer()
    each.push(done.splice(0))
  }
  return each
}

describe('things done in turn', () => {
  it('are done one a task, in the order in which they were asked for', () => {
    const done: string[] = []
    for (const name of ['ruler', 'fields', 'map']) defer(() => done.push(name))
    expect(done).toEqual([])
    expect(tasks(done)).toEqual([['ruler'], ['fields'], ['map']])
  })

  it('take what is asked for meanwhile after them', () => {
    const done: string[] = []
    defer(() => {
      done.push('panel')
      defer(() => done.push('its list'))
    })
    defer(() => done.push('map'))
    expect(tasks(done)).toEqual([['panel'], ['map'], ['its list']])
  })

  it('are not done once they are called off, and hold up nothing', () => {
    const done: string[] = []
    const off = defer(() => done.push('ruler'))
    defer(() => done.push('fields'))
    off()
    expect(tasks(done).flat()).toEqual(['fields'])
    defer(() => done.push('map'))()
    expect(tasks(done).flat()).toEqual([])
    defer(() => done.push('again'))
    expect(tasks(done).flat()).toEqual(['again'])
  })

  it('go on where one of them fails', () => {
    const done: string[] = []
    defer(() => {
      throw new Error('broken')
    })
    defer(() => done.push('fields'))
    expect(() => vi.advanceTimersToNextTimer()).toThrow('broken')
    expect(tasks(done).flat()).toEqual(['fields'])
  })
})
