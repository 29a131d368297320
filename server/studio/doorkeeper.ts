export interface Asked {
  readonly method: string
  readonly host: string | undefined
  readonly origin: string | undefined
  /** `Sec-Fetch-Site` and `Sec-Fetch-Mode`, as browsers send them. */
  readonly site: string | undefined
  readonly mode: string | undefined
  readonly path: string
  /** How many `Host` lines there are: whoever sends two may be understood in two ways. */
  readonly hosts: number
}

/**
 * Tells whether a request is meant for this server: its `Host` names it, and its `Origin`, if any, is its own. A page
 * of another site, or a name that leads here by a trick of DNS, gets nothing.
 *
 * @returns why it is refused, or undefined
 */
export function refusalFor(asked: Asked, port: number): string | undefined {
  const own = [`127.0.0.1:${port}`, `localhost:${port}`]
  if (asked.hosts !== 1 || !asked.host || !own.includes(asked.host.toLowerCase())) return `Emporion answers only on http://127.0.0.1:${port}.`
  if (asked.origin !== undefined && !own.some(host => asked.origin === `http://${host}`)) return 'Emporion answers only its own pages.'
  if (asked.origin === undefined && isForeign(asked)) return 'Emporion answers only its own pages.'
  return undefined
}

/** From another site, or another server on this machine. A link that leads to a page may come from anywhere. */
function isForeign({ site, mode, method, path }: Asked): boolean {
  if (site !== 'cross-site' && site !== 'same-site') return false
  return method !== 'GET' || mode !== 'navigate' || path.startsWith('/api/')
}
