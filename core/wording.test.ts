import { describe, expect, it } from 'vitest'
import { counted, listed } from './wording'

describe('counted nouns and lists', () => {
  it('count one as one', () => {
    expect([0, 1, 2, 1200].map(count => counted(count, 'hit'))).toEqual(['0 hits', '1 hit', '2 hits', '1,200 hits'])
    expect(counted(2, 'family', 'families')).toBe('2 families')
  })

  it('join what they list, and count what is too much', () => {
    expect(listed([])).toBe('')
    expect(listed(['A'])).toBe('A')
    expect(listed(['A', 'B'])).toBe('A and B')
    expect(listed(['A', 'B', 'C'])).toBe('A, B and C')
    expect(listed(['A', 'B', 'C', 'D'], 2)).toBe('A, B and 2 more')
  })
})
