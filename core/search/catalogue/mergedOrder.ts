/** Slots of which some have new keys, in the order of their keys; of equal keys the lower id comes first. */
export function mergedOrder(order: Int32Array, moved: readonly number[], keys: readonly string[], ids: Int32Array): Int32Array {
  const isMoved = new Set(moved)
  const comes = (a: number, b: number) => keys[a]! < keys[b]! ? -1 : keys[a]! > keys[b]! ? 1 : ids[a]! - ids[b]!
  const added = [...isMoved].sort(comes)
  const kept = order.filter(slot => !isMoved.has(slot))
  const merged = new Int32Array(kept.length + added.length)
  let [i, j] = [0, 0]
  for (let at = 0; at < merged.length; at++) {
    const isKept = j >= added.length || (i < kept.length && comes(kept[i]!, added[j]!) < 0)
    merged[at] = isKept ? kept[i++]! : added[j++]!
  }
  return merged
}
