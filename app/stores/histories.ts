import { del, get, keys, set } from 'idb-keyval'
import { applyPatternDelta, patternDelta, type PatternDelta } from '~~/core/groove/delta'
import { parsePattern, type Pattern } from '~~/core/groove/document'
import { applyDelta, deltaOf, type KitDelta } from '~~/core/kit/delta'
import type { Kit } from '~~/core/kit/document'
import { startHistory, type History } from '~~/core/kit/history'
import { keepSteps, recallSteps, type Deltas, type KeptHistory } from '~~/core/kit/keptHistory'

/** Histories of one sort of document. */
interface Shelf<T, D> extends Deltas<T, D> {
  readonly prefix: string
  /** How much there is to be written of a step. */
  readonly weigh: (delta: D) => number
  /** The same text for equal states, in whatever order their fields came. */
  readonly textOf: (state: T) => string
}

export const KIT_HISTORIES: Shelf<Kit, KitDelta> = { prefix: 'history:', deltaOf, applyDelta, weigh: delta => delta.pads.reduce((sum, [, pad]) => sum + 1 + pad.layers.length, 0), textOf: kit => JSON.stringify(kit) }
export const PATTERN_HISTORIES: Shelf<Pattern, PatternDelta> = { prefix: 'pattern-history:', deltaOf: patternDelta, applyDelta: applyPatternDelta, weigh: delta => delta.parts.reduce((sum, part) => sum + 1 + part.hits.length, 0), textOf: pattern => JSON.stringify(parsePattern(pattern)) }

/** Of long histories only the last steps are written down: to write more at once would hold up the page. */
const MOST_WEIGHT = 6_000

/** Documents of a sort of which the steps are kept; those that were edited longest ago are forgotten first. */
const MOST_KEPT = 12
const REST_MS = 800

interface Kept<T, D> {
  readonly at: number
  readonly steps: KeptHistory<T, D>
}

const waiting = new Map<string, { readonly timer: ReturnType<typeof setTimeout>, readonly steps: () => Kept<unknown, unknown> }>()
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
function lastWords<T, D>(key: string): Kept<T, D> | undefined {
  const text = localStorage.getItem(LAST_WORDS + key)
  if (text === null) return undefined
  localStorage.removeItem(LAST_WORDS + key)
  try {
    return JSON.parse(text) as Kept<T, D>
  }
  catch {
    return undefined
  }
}

/**
 * Keeps the steps of a document in this browser, a moment after the last of them, so that undo goes on after a reload and after
 * another one was open.
 */
export function keepHistory<T, D>(shelf: Shelf<T, D>, id: string, history: History<T>): void {
  if (typeof indexedDB === 'undefined') return
  const key = shelf.prefix + id
  clearTimeout(waiting.get(key)?.timer)
  const steps = (): Kept<T, D> => ({ at: Date.now(), steps: keepSteps(lastSteps(history, shelf), shelf) })
  const timer = setTimeout(() => {
    waiting.delete(key)
    void set(key, steps()).then(() => forgetOldest(shelf.prefix)).catch(() => undefined)
  }, REST_MS)
  waiting.set(key, { timer, steps })
}

/** A history with as many of its last steps as are not too much to be written down. */
function lastSteps<T, D>(history: History<T>, { deltaOf, weigh }: Shelf<T, D>): History<T> {
  let weight = 0
  let from = history.past.length
  for (let after = history.present; from > 0; after = history.past[from]!.state) {
    weight += weigh(deltaOf(history.past[from - 1]!.state, after))
    if (weight > MOST_WEIGHT) break
    from--
  }
  return { ...history, past: history.past.slice(from) }
}

/** The steps of a document, where they end in the state that it is in; else it begins anew. */
export async function recallHistory<T, D>(shelf: Shelf<T, D>, id: string, state: T): Promise<History<T>> {
  if (typeof indexedDB === 'undefined') return startHistory(state)
  const kept = lastWords<T, D>(shelf.prefix + id) ?? await get<Kept<T, D>>(shelf.prefix + id).catch(() => undefined)
  const history = kept && recallSteps(kept.steps, shelf)
  return history && shelf.textOf(history.present) === shelf.textOf(state) ? history : startHistory(state)
}

export function forgetHistory<T, D>(shelf: Shelf<T, D>, id: string): void {
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
