const waiting = new Set<() => void>()

function next(): void {
  const [act] = waiting
  if (!act) return
  waiting.delete(act)
  if (waiting.size > 0) setTimeout(next)
  act()
}

/**
 * Does what may wait, each in a task of its own and in the order in which it was asked for: between two of them the page takes keys
 * and paints. Gives what calls it off.
 */
export function defer(act: () => void): () => void {
  const own = () => act()
  waiting.add(own)
  if (waiting.size === 1) setTimeout(next)
  return () => {
    waiting.delete(own)
  }
}
