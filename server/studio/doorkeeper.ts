export interface Asked {
  readonly method: string
  readonly host: string | undefined
  readonly origin: string | undefined
  /** `Sec-Fetch-Site`, as browsers send it. */
  readonly site: string | undefined
}

/**
 * Tells whether a request is meant for this server: its `Host` names it, and its `Origin`, if any, is its own. A page
 * of another site, or a name that leads here by a trick of DNS, gets nothing.
 *
 * @returns why it is refused, or undefined
 */
export function refusalFor(asked: Asked, port: number): string | undefined {
  const own = [`127.0.0.1:${port}`, `localhost:${port}`]
  if (!asked.host || !own.includes(asked.host.toLowerCase())) return `Emporion answers only on http://127.0.0.1:${port}.`
  if (asked.origin !== undefined && !own.some(host => asked.origin === `http://${host}`)) return 'Emporion answers only its own pages.'
  if (asked.origin === undefined && asked.site === 'cross-site' && asked.method !== 'GET') return 'Emporion answers only its own pages.'
  return undefined
}
