import { createEventStream } from 'h3'
import { route } from '../studio/route'

const HEARTBEAT_MS = 20_000

export default route((studio, event) => {
  const stream = createEventStream(event)
  const stop = studio.events.listen(told => void stream.push(JSON.stringify(told)))
  const heartbeat = setInterval(() => void stream.push({ event: 'beat', data: '' }), HEARTBEAT_MS)
  stream.onClosed(async () => {
    stop()
    clearInterval(heartbeat)
    await stream.close()
  })
  void stream.push({ event: 'beat', data: '' })
  return stream.send()
})
