import { setImmediate } from 'node:timers/promises'
import { describe, expect, it } from 'vitest'
import { eventStream, MOST_WAITING_BYTES } from './eventStream'
import { StudioEvents } from '../base/events'

describe('a stream of events', () => {
  it('tells what happens to whoever reads, however much it is', async () => {
    const events = new StudioEvents()
    const stream = eventStream(events)
    let read = 0
    stream.on('data', (part: Buffer) => read += part.length)
    for (let sent = 0; sent < 3 * MOST_WAITING_BYTES; sent += 100_000) {
      events.send({ type: 'tray', trayId: 1, from: 'x'.repeat(100_000) })
      await setImmediate()
    }
    expect(read).toBeGreaterThan(3 * MOST_WAITING_BYTES)
    expect(stream.destroyed).toBe(false)
    stream.destroy()
  })

  it('is let go when nobody reads it, and holds no more than it may', () => {
    const events = new StudioEvents()
    const stream = eventStream(events)
    let sent = 0
    while (!stream.destroyed && sent < 3 * MOST_WAITING_BYTES) {
      events.send({ type: 'tray', trayId: 1, from: 'x'.repeat(100_000) })
      sent += 100_000
    }
    expect(stream.destroyed).toBe(true)
    expect(sent).toBeLessThan(MOST_WAITING_BYTES + 300_000)
  })
})
