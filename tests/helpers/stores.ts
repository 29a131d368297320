import { createPinia, setActivePinia } from 'pinia'
import { vi } from 'vitest'

/** Asked of the server: the path, and what goes with it. */
export type Ask = (path: string, options?: { method?: string, query?: Record<string, unknown>, body?: unknown }) => Promise<unknown>

/** Gives stores a page of their own, without a browser: the theme's class is set on nothing. */
export function freshStores(): void {
  vi.stubGlobal('document', { documentElement: { classList: { toggle: () => undefined } } })
  setActivePinia(createPinia())
}
