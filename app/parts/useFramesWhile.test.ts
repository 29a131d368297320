import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { useFramesWhile } from './useFramesWhile'

const asked = new Map<number, FrameRequestCallback>()
let ids = 0
beforeEach(() => {
  asked.clear()
  vi.stubGlobal('requestAnimationFrame', (act: FrameRequestCallback) => {
    asked.set(++ids, act)
    return ids
  })
  vi.stubGlobal('cancelAnimationFrame', (id: number) => asked.delete(id))
})
afterEach(() => {
  vi.unstubAllGlobals()
})

/** One frame; gives how many were asked for. */
function frame(at: number): number {
  const due = [...asked.values()]
  asked.clear()
  for (const act of due) act(at)
  return due.length
}

describe('frames for as long as something changes', () => {
  it('come once it begins, each with the time since the one before, and end when there is no more', () => {
    const seen: number[][] = []
    let left = 2
    const begin = useFramesWhile((delta, timestamp) => {
      seen.push([delta, timestamp])
      return left-- > 0
    })
    expect(frame(0)).toBe(0)
    begin()
    for (const at of [100, 116, 133, 150]) frame(at)
    expect(seen).toEqual([[0, 100], [16, 116], [17, 133]])
    expect(asked.size).toBe(0)
  })

  it('begin again, with no time since then', () => {
    const seen: number[] = []
    const begin = useFramesWhile((delta) => {
      seen.push(delta)
      return false
    })
    begin()
    frame(100)
    begin()
    frame(900)
    expect(seen).toEqual([0, 0])
  })

  it('come once each, however often they are begun', () => {
    const begin = useFramesWhile(() => true)
    begin()
    begin()
    expect(frame(100)).toBe(1)
    begin()
    expect(frame(116)).toBe(1)
  })

  it('end with what shows them', () => {
    const scope = effectScope()
    scope.run(() => useFramesWhile(() => true)())
    frame(100)
    scope.stop()
    expect(frame(116)).toBe(0)
  })
})
