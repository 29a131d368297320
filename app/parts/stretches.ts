/** Places in order as stretches, each from its first to its last. */
export function stretchesOf(places: readonly number[]): [number, number][] {
  const found: [number, number][] = []
  for (const place of places) {
    const last = found.at(-1)
    if (last?.[1] === place - 1) last[1] = place
    else found.push([place, place])
  }
  return found
}
