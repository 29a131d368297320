import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { inNaturalOrder } from './naturalKey'
import { nameTokens, searchText } from './tokens'
import { queryWords } from './words'

describe('names cut into words', () => {
  it('cuts at signs, at capitals, and between letters and digits', () => {
    expect(nameTokens('OpenHat03')).toEqual(['open', 'hat', '03'])
    expect(nameTokens('HHOpen_v2')).toEqual(['hh', 'open', 'v', '2'])
    expect(nameTokens('Nachtfähre - Kick (tief)')).toEqual(['nachtfahre', 'kick', 'tief'])
  })

  it('finds accents written either way, composed or not', () => {
    expect(searchText('Fa\u0308hre')).toBe(searchText('Fähre'))
    expect(searchText('OpenHat 03')).toBe('openhat 03 | open hat 03')
    expect(queryWords('FÄHRE')).toEqual(['fahre'])
  })

  it('every word of a name is found by a query for that name', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (name) => {
      const tokens = searchText(name).split(' ')
      for (const word of queryWords(name)) expect(tokens.some(token => token.startsWith(word))).toBe(true)
    }))
  })

  it('query words hold nothing that a query language could take as a sign', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary' }), (query) => {
      expect(queryWords(query).every(word => /^[\p{L}\p{N}]+$/u.test(word))).toBe(true)
    }))
  })
})

describe('natural order', () => {
  it('counts as people do', () => {
    const names = ['Tom 10', 'Tom 2', 'tom 1', 'Tom 02b', 'Tom 002']
    const sorted = inNaturalOrder(names, name => name)
    expect(sorted[0]).toBe('tom 1')
    expect(sorted.at(-1)).toBe('Tom 10')
  })
})
