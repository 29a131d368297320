import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { onceReleased } from './useRelease'

describe('a press', () => {
  beforeEach(() => void vi.stubGlobal('window', new EventTarget()))
  afterEach(() => void vi.unstubAllGlobals())

  it.each(['pointerup', 'pointercancel'])('ends once, by %s, whatever comes after', (type) => {
    const ends: string[] = []
    onceReleased(event => ends.push(event.type))
    for (const one of ['pointermove', type, 'pointerup', 'pointercancel']) window.dispatchEvent(new Event(one))
    expect(ends).toEqual([type])
  })
})
