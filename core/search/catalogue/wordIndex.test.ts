import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { WordIndex } from './wordIndex'

const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c', 'd', '1', 'ä'), minLength: 1, maxLength: 7 })

function indexOf(words: readonly string[]): WordIndex {
  const index = new WordIndex()
  words.forEach((one, sound) => index.add(sound, [one]))
  return index
}

describe('words that hold others', () => {
  it('are those that a plain look finds, also after more were added and after it was written down', () => {
    fc.assert(fc.property(fc.array(word, { maxLength: 60 }), fc.array(word, { maxLength: 20 }), word, (words, more, part) => {
      const index = indexOf(words)
      index.near(part, words.length)
      more.forEach((one, i) => index.add(words.length + i, [one]))
      const all = [...words, ...more]
      const restored = new WordIndex()
      restored.restore(index.save())
      for (const looked of [index, restored]) {
        const found = looked.near(part, all.length)
        all.forEach((one, sound) => {
          if (part.length >= 3 && one.length > part.length && one.includes(part)) expect(found.has(sound)).toBe(true)
          // With a digit nothing counts as misspelled.
          if (/\d/.test(part)) expect(found.has(sound)).toBe(part.length >= 3 && one.length > part.length && one.includes(part))
        })
      }
    }))
  })

  it('find one slip of the fingers, and no number that is nearly the same', () => {
    const index = indexOf(['snare', 'snart', 'sanre', 'snares', 'share1', 'kick'])
    const found = index.near('snare', 6)
    expect([1, 2, 3].map(sound => found.has(sound))).toEqual([true, true, true])
    expect([0, 4, 5].map(sound => found.has(sound))).toEqual([true, false, false])
  })
})
