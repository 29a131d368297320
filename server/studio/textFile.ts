import { Readable } from 'node:stream'
import { setResponseHeaders, type H3Event } from 'h3'
import { sendStreamed } from './streamed'

/** Answers with lines of text as they come, to be saved under a name. */
export function sendText(event: H3Event, name: string, lines: AsyncIterable<string>): Promise<void> {
  setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'content-disposition': `attachment; filename="${name}"` })
  return sendStreamed(event, Readable.from(lines))
}
