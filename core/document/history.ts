/** Steps that can be undone at most; the oldest are forgotten first. */
export const MOST_UNDO_STEPS = 500

/** A document with the states before and after it. Immutable, as the documents are. */
export interface History<T> {
  readonly past: readonly Step<T>[]
  readonly present: T
  readonly future: readonly Step<T>[]
}

/** A state with the name of the edit that leads from it (past) or to it (future). */
interface Step<T> {
  readonly state: T
  readonly label: string
  /** Edits of one gesture carry one key and are undone together. */
  readonly gesture?: string
}

export function startHistory<T>(present: T): History<T> {
  return { past: [], present, future: [] }
}

/** Records an edit. An edit that changes nothing, or goes on with the last gesture, adds no step. */
export function record<T>(history: History<T>, next: T, label: string, gesture?: string): History<T> {
  if (next === history.present) return history
  if (gesture !== undefined && history.future.length === 0 && history.past.at(-1)?.gesture === gesture) {
    return { ...history, present: next }
  }
  const past = [...history.past, { state: history.present, label, gesture }].slice(-MOST_UNDO_STEPS)
  return { past, present: next, future: [] }
}

export function undo<T>(history: History<T>): History<T> {
  const step = history.past.at(-1)
  if (!step) return history
  return {
    past: history.past.slice(0, -1),
    present: step.state,
    future: [{ state: history.present, label: step.label }, ...history.future],
  }
}

export function redo<T>(history: History<T>): History<T> {
  const step = history.future[0]
  if (!step) return history
  return {
    past: [...history.past, { state: history.present, label: step.label }],
    present: step.state,
    future: history.future.slice(1),
  }
}

/** One state on the way: its place, the edit that leads to it, and whether it is the current one. */
export interface HistoryEntry {
  /** Steps from the present: below 0 in the past. */
  readonly offset: number
  readonly label: string
}

/** The states that can be stepped to, the oldest first; the first is the one before all edits. */
export function entriesOf<T>({ past, future }: History<T>): HistoryEntry[] {
  const labels = ['Start', ...past.map(step => step.label), ...future.map(step => step.label)]
  return labels.map((label, i) => ({ offset: i - past.length, label }))
}

/** Undoes or does again so many steps at once, as far as there are any. */
export function stepBy<T>(history: History<T>, offset: number): History<T> {
  let at = history
  for (let i = 0; i < Math.abs(offset); i++) at = offset < 0 ? undo(at) : redo(at)
  return at
}
