import { PassThrough } from 'node:stream'
import type { StudioEvents } from '../base/events'

const HEARTBEAT_MS = 20_000
/** What one page may leave unread. */
export const MOST_WAITING_BYTES = 4_000_000

/** All that happens from now on, as the text of server-sent events, until the stream is closed. */
export function eventStream(events: StudioEvents): PassThrough {
  const stream = new PassThrough()
  const beat = () => void (stream.destroyed || stream.write('event: beat\ndata: \n\n'))
  const stop = events.listen((told) => {
    // Somebody who does not read is let go, and asks for everything anew on coming back.
    if (stream.readableLength + stream.writableLength > MOST_WAITING_BYTES) return stream.destroy()
    stream.write(`data: ${JSON.stringify(told)}\n\n`)
  })
  const heartbeat = setInterval(beat, HEARTBEAT_MS)
  stream.once('close', () => {
    stop()
    clearInterval(heartbeat)
  })
  beat()
  return stream
}
