import { del, get, keys, set } from 'idb-keyval'
import type { Kit } from '~~/core/kit/document'
import { startHistory, type History } from '~~/core/kit/history'
import { keepSteps, recallSteps, type KeptHistory } from '~~/core/kit/keptHistory'

/** Kits of which the steps are kept; those that were edited longest ago are forgotten first. */
const MOST_KITS = 12
const PREFIX = 'history:'
const REST_MS = 800

interface Kept {
  readonly at: number
  readonly steps: KeptHistory
}

const waiting = new Map<string, ReturnType<typeof setTimeout>>()

/**
 * Keeps the steps of a kit in this browser, a moment after the last of them, so that undo goes on after a reload and after
 * another kit was open.
 */
export function keepHistory(kitId: string, history: History<Kit>): void {
  if (typeof indexedDB === 'undefined') return
  clearTimeout(waiting.get(kitId))
  waiting.set(kitId, setTimeout(() => {
    waiting.delete(kitId)
    void set(PREFIX + kitId, { at: Date.now(), steps: keepSteps(history) } satisfies Kept).then(forgetOldest).catch(() => undefined)
  }, REST_MS))
}

/** The steps of a kit, where they end in the state that it is in; else it begins anew. */
export async function recallHistory(kitId: string, kit: Kit): Promise<History<Kit>> {
  if (typeof indexedDB === 'undefined') return startHistory(kit)
  const kept = await get<Kept>(PREFIX + kitId).catch(() => undefined)
  const history = kept && recallSteps(kept.steps)
  return history && JSON.stringify(history.present) === JSON.stringify(kit) ? history : startHistory(kit)
}

export function forgetHistory(kitId: string): void {
  clearTimeout(waiting.get(kitId))
  if (typeof indexedDB !== 'undefined') void del(PREFIX + kitId).catch(() => undefined)
}

async function forgetOldest(): Promise<void> {
  const own = (await keys()).filter(key => String(key).startsWith(PREFIX))
  if (own.length <= MOST_KITS) return
  const kept = await Promise.all(own.map(async key => ({ key, at: (await get<Kept>(key))?.at ?? 0 })))
  const old = kept.sort((a, b) => b.at - a.at).slice(MOST_KITS)
  await Promise.all(old.map(({ key }) => del(key)))
}
