/**
 * What hangs together through any chain of pairs.
 *
 * @returns for each number of a pair, the smallest one that it hangs together with
 */
export function connected(pairs: Iterable<readonly [number, number]>): Map<number, number> {
  const above = new Map<number, number>()
  const top = (item: number): number => {
    let at = item
    for (let next = above.get(at) ?? at; next !== at; next = above.get(at) ?? at) {
      above.set(at, above.get(next) ?? next)
      at = next
    }
    return at
  }
  for (const [first, second] of pairs) {
    const [a, b] = [top(first), top(second)]
    above.set(first, above.get(first) ?? first)
    above.set(second, above.get(second) ?? second)
    above.set(Math.max(a, b), Math.min(a, b))
  }
  return new Map([...above.keys()].map(item => [item, top(item)]))
}
