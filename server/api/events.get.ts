import { PassThrough } from 'node:stream'
import { setResponseHeaders } from 'h3'
import { route } from '../studio/route'
import { sendStreamed } from '../studio/streamed'

const HEARTBEAT_MS = 20_000

/** What happens, as server-sent events. */
export default route(async ({ events }, event) => {
  setResponseHeaders(event, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' })
  const stream = new PassThrough()
  const beat = () => stream.write('event: beat\ndata: \n\n')
  const stop = events.listen(told => stream.write(`data: ${JSON.stringify(told)}\n\n`))
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
