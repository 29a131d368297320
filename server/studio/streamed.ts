import type { Readable } from 'node:stream'
import type { H3Event } from 'h3'

/**
 * Answers with a stream. What h3 has for it never answers a request that comes over a connection whose answer before is not
 * quite out yet, as a browser's does whenever it knows from the length that it has all of it; nor does it close the stream of
 * somebody who went away.
 *
 * @throws what goes wrong with the stream before any of it was sent; after that the connection is cut, so that nobody takes a part for the whole
 */
export function sendStreamed(event: H3Event, stream: Readable): Promise<void> {
  const { req, res } = event.node
  const { socket } = req
  return new Promise((resolve, reject) => {
    const over = () => {
      res.off('close', over)
      socket.off('close', over)
      stream.destroy()
      event._handled = true
      resolve()
    }
    res.on('close', over)
    socket.on('close', over)
    stream.once('error', error => res.headersSent ? socket.destroy() : reject(error))
    stream.once('close', () => stream.readableEnded || !res.headersSent || socket.destroy())
    stream.pipe(res)
  })
}
