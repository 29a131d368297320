import { del, get, keys, set } from 'idb-keyval'
import { parsePattern, type Pattern } from '~~/core/groove/document'
import type { Kit } from '~~/core/kit/document'
import { startHistory, type History } from '~~/core/document/history'
import { keepSteps, recallSteps, type KeptHistory } from '~~/core/document/keptHistory'

/** Histories of one sort of document. */
export interface Shelf<T> {
  readonly prefix: string
  /** The same text for equal states, in whatever order their fields came. */
  readonly textOf: (state: T) => string
}

export const KIT_HISTORIES: Shelf<Kit> = { prefix: 'kit-steps:', textOf: kit => JSON.stringify(kit) }
export const PATTERN_HISTORIES: Shelf<Pattern> = { prefix: 'pattern-steps:', textOf: pattern => JSON.stringify(parsePattern(pattern)) }

/** Of long histories only the last steps are written down: to write more at once would hold up the page. */
const MOST_WEIGHT = 6_000

/** Documents of a sort of which the steps are kept; those that were edited longest ago are forgotten first. */
const MOST_KEPT = 12
const REST_MS = 800

interface Kept<T> {
  readonly at: number
  readonly steps: KeptHistory<T>
}

const waiting = new Map<string, { readonly timer: ReturnType<typeof setTimeout>, readonly steps: () => Kept<unknown> }>()
/** What is written when the page goes: a database may not be done by then, and this is at once. */
const LAST_WORDS = 'emporion-last-steps:'
/** As much as a browser surely takes. */
const MOST_LAST_WORDS = 1_000_000

/** Writes down what waits to be, since the page goes. */
export function flushHistories(): void {
  for (const [key, { timer, steps }] of waiting) {
    clearTimeout(timer)
    const kept = steps()
    void set(key, kept).catch(() => undefined)
    const text = JSON.stringify(kept)
    try {
      if (text.length <= MOST_LAST_WORDS) localStorage.setItem(LAST_WORDS + key, text)
    }
    catch {
      // There is no room: the database may be done all the same.
      continue
    }
  }
  waiting.clear()
}

if (typeof window !== 'undefined' && typeof indexedDB !== 'undefined') window.addEventListener('pagehide', flushHistories)

/** Exported files at the last moment; it is read once. */
function lastWords<T>(key: string): Kept<T> | undefined {
  const text = localStorage.getItem(LAST_WORDS + key)
  if (text === null) return undefined
  localStorage.removeItem(LAST_WORDS + key)
  try {
    return JSON.parse(text) as Kept<T>
  }
  catch {
    return undefined
  }
}

/**
 * Keeps the steps of a document in this browser, a moment after the last of them, so that undo goes on after a reload and after
 * another one was open.
 */
export function keepHistory<T>(shelf: Shelf<T>, id: string, history: History<T>): void {
  if (typeof indexedDB === 'undefined') return
  const key = shelf.prefix + id
  clearTimeout(waiting.get(key)?.timer)
  const steps = (): Kept<T> => ({ at: Date.now(), steps: keepSteps(history, MOST_WEIGHT) })
  const timer = setTimeout(() => {
    waiting.delete(key)
    void set(key, steps()).then(() => forgetOldest(shelf.prefix)).catch(() => undefined)
  }, REST_MS)
  waiting.set(key, { timer, steps })
}

/** The steps of a document, where they end in the state that it is in; else it begins anew. */
export async function recallHistory<T>(shelf: Shelf<T>, id: string, state: T): Promise<History<T>> {
  if (typeof indexedDB === 'undefined') return startHistory(state)
  const kept = lastWords<T>(shelf.prefix + id) ?? await get<Kept<T>>(shelf.prefix + id).catch(() => undefined)
  const history = kept && recallSteps(kept.steps)
  return history && shelf.textOf(history.present) === shelf.textOf(state) ? history : startHistory(state)
}

export function forgetHistory<T>(shelf: Shelf<T>, id: string): void {
  clearTimeout(waiting.get(shelf.prefix + id)?.timer)
  waiting.delete(shelf.prefix + id)
  if (typeof indexedDB !== 'undefined') void del(shelf.prefix + id).catch(() => undefined)
}

async function forgetOldest(prefix: string): Promise<void> {
  const own = (await keys()).filter(key => String(key).startsWith(prefix))
  if (own.length <= MOST_KEPT) return
  const kept = await Promise.all(own.map(async key => ({ key, at: (await get<{ at: number }>(key))?.at ?? 0 })))
  const old = kept.sort((a, b) => b.at - a.at).slice(MOST_KEPT)
  await Promise.all(old.map(({ key }) => del(key)))
}
