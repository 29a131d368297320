import { beforeEach, describe, expect, it, vi } from 'vitest'
import { startDrag } from './useDrag'

/** An element that can hold a pointer, and the window around it. */
function page() {
  const held = new Set<number>()
  const handle = Object.assign(new EventTarget(), { setPointerCapture: (id: number) => held.add(id), hasPointerCapture: (id: number) => held.has(id), releasePointerCapture: (id: number) => held.delete(id) })
  const window = new EventTarget()
  vi.stubGlobal('window', window)
  const send = (type: string, more: object = {}) => handle.dispatchEvent(Object.assign(new Event(type), { pointerId: 1, clientX: 0, clientY: 0, ...more }))
  const press = (key: string) => {
    const event = Object.assign(new Event('keydown', { cancelable: true }), { key })
    window.dispatchEvent(event)
    return event
  }
  const done: string[] = []
  const start = (button = 0) => startDrag({ button, pointerId: 1, clientX: 100, clientY: 50, currentTarget: handle } as unknown as PointerEvent, {
    move: (_event, { x, y }) => done.push(`${x} ${y}`),
    end: () => done.push('end'),
    cancel: () => done.push('cancel'),
  })
  return { held, send, press, start, done }
}

beforeEach(() => {
  vi.unstubAllGlobals()
})

describe('a drag', () => {
  it('follows its own pointer, by how far it has gone, and ends where that is let go', () => {
    const { held, send, start, done } = page()
    start()
    expect([...held]).toEqual([1])
    send('pointermove', { clientX: 130, clientY: 45 })
    send('pointermove', { pointerId: 2, clientX: 500 })
    send('pointerup', { pointerId: 2 })
    send('pointerup')
    send('pointermove', { clientX: 900 })
    expect(done).toEqual(['30 -5', 'end'])
  })

  it('is broken off by Escape, which means nothing else then, and by the browser', () => {
    const { held, press, send, start, done } = page()
    start()
    expect(press('Enter').defaultPrevented).toBe(false)
    expect(press('Escape').defaultPrevented).toBe(true)
    expect([...held]).toEqual([])
    expect(press('Escape').defaultPrevented).toBe(false)
    start()
    send('pointercancel')
    send('pointermove', { clientX: 900 })
    send('pointerup')
    expect(done).toEqual(['cancel', 'cancel'])
  })

  it('is of the first button alone', () => {
    const { held, send, start, done } = page()
    start(2)
    send('pointermove')
    expect([...held, ...done]).toEqual([])
  })
})
