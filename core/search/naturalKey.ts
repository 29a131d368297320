import { fold } from './tokens'

/**
 * A key whose plain comparison by code points sorts names as people count: `Tom 2` before `Tom 10`. Runs of digits
 * are written with their length in front, after leading zeros are dropped.
 */
export function naturalKey(name: string): string {
  return fold(name).replace(/\d+/g, (digits) => {
    const plain = digits.replace(/^0+(?=\d)/, '')
    return `${String(Math.min(99, plain.length)).padStart(2, '0')}${plain}`
  })
}

/** The items sorted by their names as people count; those of equal names keep their order. */
export function inNaturalOrder<T>(items: readonly T[], nameOf: (item: T) => string): T[] {
  return items.map(item => ({ item, key: naturalKey(nameOf(item)) })).sort((a, b) => a.key < b.key ? -1 : a.key > b.key ? 1 : 0).map(({ item }) => item)
}
