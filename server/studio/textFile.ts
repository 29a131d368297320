import { setResponseHeaders, type H3Event } from 'h3'

/** Answers with lines of text, to be saved under a name. */
export function textFile(event: H3Event, name: string, lines: readonly string[]): string {
  setResponseHeaders(event, { 'content-type': 'text/plain; charset=utf-8', 'content-disposition': `attachment; filename="${name}"` })
  return lines.map(line => `${line}\n`).join('')
}
