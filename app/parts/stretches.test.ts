import fc from 'fast-check'
import { expect, it } from 'vitest'
import { stretchesOf } from './stretches'

it('stretches hold the same places, in the fewest pieces', () => {
  expect(stretchesOf([1, 2, 3, 7, 9, 10])).toEqual([[1, 3], [7, 7], [9, 10]])
  fc.assert(fc.property(fc.uniqueArray(fc.nat(200)), (places) => {
    const sorted = places.sort((a, b) => a - b)
    const stretches = stretchesOf(sorted)
    expect(stretches.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => from + i))).toEqual(sorted)
    stretches.forEach(([from], i) => i > 0 && expect(from).toBeGreaterThan(stretches[i - 1]![1] + 1))
  }))
})
