import { expect, it } from 'vitest'
import { holdsWords } from './holdsWords'

it.each([
  ['Nachtfähre, all hands', 'hands nacht', true],
  ['Nachtfähre, all hands', 'FAHRE', true],
  ['Nachtfähre, all hands', 'hands deck', false],
  ['Nachtfähre, all hands', '  ', true],
  ['Deck 12', 'k 1', true],
])('%s is found by "%s": %s', (text, words, found) => {
  expect(holdsWords(text, words)).toBe(found)
})
