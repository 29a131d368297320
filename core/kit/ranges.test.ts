import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { equalRanges, velocityRanges } from './ranges'

describe('equal ranges', () => {
  it('are as the table says: 0-127 over 6 (common practice, references.md)', () => {
    expect(equalRanges(6).map(({ low, high }) => `${low}-${high}`)).toEqual(['0-20', '21-41', '42-62', '63-83', '84-104', '105-127'])
  })

  it('hold every value once, however many there are', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 128 }), (count) => {
      const ranges = equalRanges(count)
      expect(ranges).toHaveLength(count)
      expect(ranges.flatMap(({ low, high }) => Array.from({ length: high - low + 1 }, (_, i) => low + i))).toEqual(Array.from({ length: 128 }, (_, i) => i))
    }))
  })

  it('of velocities leave out 0, which is a note-off (MIDI 1.0)', () => {
    expect(velocityRanges(3)).toEqual([{ low: 1, high: 41 }, { low: 42, high: 83 }, { low: 84, high: 127 }])
    expect(velocityRanges(1)).toEqual([{ low: 1, high: 127 }])
  })
})
