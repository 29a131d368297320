import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'
import { filledPath, type Endpoint, type Placed } from '../../contract/endpoint'

/** Asked of the server: the path, and what goes with it. */
export type Ask = (path: string, options?: { method?: string, query?: Record<string, unknown>, body?: unknown }) => Promise<unknown>

/** What the page asks of an endpoint, as it goes to the server. */
export function asRequest({ method, path }: Endpoint, { params, query, body }: Placed & { readonly body?: unknown } = {}): Parameters<Ask> {
  return [filledPath(path, { params }), { method, query, body }]
}

/** Gives stores a page of their own, without a browser: the theme's class is set on nothing. */
export function freshStores(): void {
  vi.stubGlobal('document', { documentElement: { classList: { toggle: () => undefined } } })
  setActivePinia(createPinia())
}
