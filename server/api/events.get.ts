import { studioRoutes } from '../../contract/studio'
import { setResponseHeaders } from 'h3'
import { eventStream } from '../studio/eventStream'
import { route } from '../studio/route'
import { sendStreamed } from '../studio/streamed'

/** What happens, as server-sent events. */
export default route(studioRoutes.events, async ({ events }, _asked, event) => {
  setResponseHeaders(event, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' })
  const stream = eventStream(events)
  try {
    await sendStreamed(event, stream)
  }
  finally {
    stream.destroy()
  }
})
