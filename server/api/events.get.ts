import { PassThrough } from 'node:stream'
import { setResponseHeaders } from 'h3'
import { route } from '../studio/route'
import { sendStreamed } from '../studio/streamed'

const HEARTBEAT_MS = 20_000
/** What one page may leave unread. */
const MOST_WAITING_BYTES = 4_000_000

/** What happens, as server-sent events. */
export default route(async ({ events }, event) => {
  setResponseHeaders(event, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' })
  const stream = new PassThrough()
  const beat = () => void (stream.destroyed || stream.write('event: beat\ndata: \n\n'))
  const stop = events.listen((told) => {
    // Somebody who does not read is let go, and asks for everything anew on coming back.
    if (stream.readableLength + stream.writableLength > MOST_WAITING_BYTES) return stream.destroy()
    stream.write(`data: ${JSON.stringify(told)}\n\n`)
  })
  const heartbeat = setInterval(beat, HEARTBEAT_MS)
  beat()
  try {
    await sendStreamed(event, stream)
  }
  finally {
    stop()
    clearInterval(heartbeat)
  }
})
