/** The header by which the browser keeps an answer as a file of that name. Source: RFC 6266; RFC 8187. */
export function attachment(name: string): { 'content-disposition': string } {
  return { 'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}` }
}
