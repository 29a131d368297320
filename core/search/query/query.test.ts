import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { completions, pieceAt } from './complete'
import { conditionText, partsOf, rangeText, withCondition, withoutPart } from './edit'
import { FIELDS } from './fields'
import { parseQuery } from './parse'
import type { Query } from './tree'

const read = (text: string) => parseQuery(text).query
const only = (text: string): Query => {
  const { query, problems } = parseQuery(text)
  expect(problems).toEqual([])
  return query.type === 'all' && query.of.length === 1 ? query.of[0]! : query
}
const problemOf = (text: string) => {
  const [problem] = parseQuery(text).problems
  return problem && { message: problem.message, at: text.slice(problem.from, problem.to) }
}

describe('a search text', () => {
  it('holds words, phrases and what is not to be found', () => {
    expect(read('Dark "Deep Kick" -loop -"full mix"')).toEqual({ type: 'all', of: [
      { type: 'word', word: 'dark' },
      { type: 'phrase', words: ['deep', 'kick'] },
      { type: 'not', of: { type: 'word', word: 'loop' } },
      { type: 'not', of: { type: 'phrase', words: ['full', 'mix'] } },
    ] })
  })

  it('takes a hyphen within a word for what parts two words', () => {
    expect(only('hi-hat')).toEqual({ type: 'all', of: [{ type: 'word', word: 'hi' }, { type: 'word', word: 'hat' }] })
  })

  it('joins by "or" its two neighbours alone, and groups by brackets', () => {
    expect(read('kick or snare dark')).toEqual({ type: 'all', of: [
      { type: 'any', of: [{ type: 'word', word: 'kick' }, { type: 'word', word: 'snare' }] },
      { type: 'word', word: 'dark' },
    ] })
    expect(only('kick or (snare dark)')).toEqual({ type: 'any', of: [
      { type: 'word', word: 'kick' },
      { type: 'all', of: [{ type: 'word', word: 'snare' }, { type: 'word', word: 'dark' }] },
    ] })
    expect(only('-(a or b)')).toEqual({ type: 'not', of: { type: 'any', of: [{ type: 'word', word: 'a' }, { type: 'word', word: 'b' }] } })
  })

  it.each<[string, Query]>([
    ['kind=hat.closed', { type: 'kind', path: 'hat.closed' }],
    ['kind="Closed hat"', { type: 'kind', path: 'hat.closed' }],
    ['kind=BD', { type: 'kind', path: 'kick' }],
    ['kind=unknown', { type: 'kind', path: 'none' }],
    ['kind=kick,rim', { type: 'any', of: [{ type: 'kind', path: 'kick' }, { type: 'kind', path: 'rim' }] }],
    ['tag="Late Night"', { type: 'tag', tag: 'late night' }],
    ['in="Night Ferry/Kicks"', { type: 'folder', folders: ['night ferry', 'kicks'] }],
    ['source=Fähre', { type: 'source', name: 'fahre' }],
    ['length<0.3', { type: 'number', field: 'length', range: { high: 0.3, below: true } }],
    ['length<300ms', { type: 'number', field: 'length', range: { high: 0.3, below: true } }],
    ['sounds=0.2..0.5', { type: 'number', field: 'sounds', range: { low: 0.2, high: 0.5 } }],
    ['sounds=..0.5', { type: 'number', field: 'sounds', range: { high: 0.5 } }],
    ['loudness>=-14', { type: 'number', field: 'loudness', range: { low: -14 } }],
    ['bright=40', { type: 'number', field: 'bright', range: { low: 39.5, high: 40.5 } }],
    ['rate=44.1', { type: 'number', field: 'rate', range: { low: 44_050, high: 44_150 } }],
    ['rate>=48khz', { type: 'number', field: 'rate', range: { low: 48_000 } }],
    ['channels=mono', { type: 'number', field: 'channels', range: { low: 1, high: 1 } }],
    ['note=C1', { type: 'number', field: 'note', range: { low: 35.5, high: 36.5 } }],
    ['note=36..40', { type: 'number', field: 'note', range: { low: 36, high: 40 } }],
    ['tempo=120..128', { type: 'number', field: 'tempo', range: { low: 120, high: 128 } }],
    ['tempo<=92.5bpm', { type: 'number', field: 'tempo', range: { high: 92.5 } }],
    ['is=several-hits', { type: 'flag', flag: 'several-hits' }],
    ['-is=favourite', { type: 'not', of: { type: 'state', state: 'favourite' } }],
    ['since=2w', { type: 'since', daysAgo: 14 }],
    ['like=412', { type: 'like', sound: '412' }],
    ['like=drop-3', { type: 'like', sound: 'drop-3' }],
  ])('reads %s', (text, query) => {
    expect(only(text)).toEqual(query)
  })

  it('reads note names in the convention asked for (common practice, references.md)', () => {
    expect(parseQuery('note=C2', 'C4').query).toEqual(parseQuery('note=C1', 'C3').query)
  })

  it.each([['folder="night ferry/kicks"', 'in="night ferry/kicks"'], ['path=kicks', 'in=kicks'], ['type=kick', 'kind=kick'], ['lufs>-20', 'loudness>-20'], ['brightness<30', 'bright<30'], ['duration<0.5', 'length<0.5'], ['depth=24', 'bits=24'], ['hz<60', 'pitch<60'], ['bpm>120', 'tempo>120'], ['tags=dry', 'tag=dry']])('takes %s for %s', (text, meant) => {
    expect(only(text)).toEqual(only(meant))
    expect(parseQuery(text)).toMatchObject({ problems: [], parts: [{ field: parseQuery(meant).parts[0]!.field }] })
  })

  it('reads every example of its own explanation', () => {
    for (const field of FIELDS) expect(parseQuery(field.example).problems, field.example).toEqual([])
  })

  it.each([
    ['kick colour=red', 'colour=red'],
    ['kind=kazoo', 'kazoo'],
    ['length<soon snare', 'soon'],
    ['note=H9', 'H9'],
    ['is=favourite,wonderful', 'wonderful'],
    ['snare ) kick', ')'],
    ['or kick', 'or'],
    ['kick or', 'or'],
    ['since=yesterday', 'yesterday'],
    ['kick ???', '???'],
    ['bright>', 'bright>'],
    ['sounds=0.5..0.2', '0.5..0.2'],
    ['tag<dry', 'tag<dry'],
  ])('points at what is wrong in %s', (text, at) => {
    expect(problemOf(text)?.at).toBe(at)
  })

  it('withstands anything that is typed, and every place lies in the text', () => {
    const anything = fc.oneof(fc.string({ unit: 'binary', maxLength: 100 }), fc.stringMatching(/^[()"\-or<>=., a-z0-9]{0,100}$/))
    fc.assert(fc.property(anything, (text) => {
      const { parts, problems } = parseQuery(text)
      for (const { from, to } of [...parts, ...problems]) expect(0 <= from && from <= to && to <= text.length).toBe(true)
      parts.forEach((part, i) => expect(part.from).toBeGreaterThanOrEqual(parts[i - 1]?.to ?? 0))
    }))
  })

  it('is the same when each part is read by itself', () => {
    const piece = fc.constantFrom('kick', '"deep kick"', '-loop', 'kind=hat', 'length<0.5', '(a or b)', 'tag="x y"', 'hi-hat', '-(a b)')
    fc.assert(fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
      const text = pieces.join(' ')
      const { parts, query } = parseQuery(text)
      expect(parts.map(part => text.slice(part.from, part.to))).toEqual(pieces)
      expect(query).toEqual({ type: 'all', of: pieces.map(one => parseQuery(one).parts[0]!.query) })
    }))
  })

  it('a hundred brackets and signs end in a problem, not in a fall', () => {
    expect(problemOf('('.repeat(100))?.message).toContain('deep')
    expect(parseQuery('-'.repeat(100)).parts).toEqual([])
    expect(parseQuery(`${'-'.repeat(99)}a`).parts).toHaveLength(1)
    expect(problemOf(Array.from({ length: 120 }, (_, i) => `w${i}`).join(' '))?.message).toContain('at once')
  })
})

describe('changing a search text', () => {
  const set = (text: string, field: string, condition?: string) => withCondition(text, parseQuery(text), field, condition)

  it('sets a condition in its place, and takes it away', () => {
    expect(set('dark kick', 'kind', 'kind=kick')).toBe('dark kick kind=kick')
    expect(set('dark kind=kick short', 'kind', 'kind=rim')).toBe('dark kind=rim short')
    expect(set('dark kind=kick short kind=rim', 'kind')).toBe('dark short')
    expect(set('-kind=loop kind=kick', 'kind')).toBe('-kind=loop')
  })

  it('writes values so that they are read again', () => {
    fc.assert(fc.property(fc.array(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }).filter(tag => /[\p{L}\p{N}]/u.test(tag) && !tag.includes('"')), { minLength: 1, maxLength: 4 }), (tags) => {
      const text = conditionText('tag', tags)!
      const { parts, problems } = parseQuery(text)
      expect(problems).toEqual([])
      expect(parts).toHaveLength(1)
      expect(partsOf(parseQuery(text), 'tag')).toHaveLength(1)
    }))
    expect([rangeText('bright', 10, 20), rangeText('bright', undefined, 20), rangeText('bright', 10, undefined), rangeText('bright', undefined, undefined)])
      .toEqual(['bright=10..20', 'bright<=20', 'bright>=10', undefined])
  })

  it('takes any part away and leaves the others', () => {
    const text = 'dark "deep kick" kind=kick -loop'
    const { parts } = parseQuery(text)
    expect(parts.map(part => withoutPart(text, part))).toEqual(['"deep kick" kind=kick -loop', 'dark kind=kick -loop', 'dark "deep kick" -loop', 'dark "deep kick" kind=kick'])
  })
})

describe('completion', () => {
  const library = { tags: ['dry', 'late night'], sources: ['Harbour'], packs: ['Deck tapes'] }
  const offered = (piece: string) => completions(piece, library).map(completion => completion.text)

  it('offers conditions, kinds, states and tags by their beginnings', () => {
    expect(offered('kin')).toContain('kind=')
    expect(offered('clo')).toContain('kind=hat.closed')
    expect(offered('fav')).toEqual(['is=favourite'])
    expect(offered('lat')).toContain('tag="late night"')
  })

  it('offers the values of a condition, after a comma a further one', () => {
    expect(offered('kind=sna')).toEqual(['kind=snare', 'kind=snare.brush', 'kind=snap'])
    expect(offered('tag=dry,la')).toEqual(['tag=dry,"late night"'])
    expect(offered('source=h')).toEqual(['source=Harbour'])
    expect(offered('nothing=')).toEqual([])
  })

  it('all that it offers whole can be read', () => {
    for (const piece of ['k', 'h', 'l', 'kind=', 'is=', 'tag=', 'pack=', 'since=', 'channels=']) {
      for (const completion of completions(piece, library)) if (completion.isWhole) expect(parseQuery(completion.text).problems, completion.text).toEqual([])
    }
  })

  it('knows the piece at the caret, quotation marks and a sign before it', () => {
    expect(pieceAt('dark kin', 8)).toEqual({ text: 'kin', from: 5, to: 8 })
    expect(pieceAt('dark -kin more', 9)).toEqual({ text: 'kin', from: 6, to: 9 })
    expect(pieceAt('tag="late ni', 12)).toEqual({ text: 'tag="late ni', from: 0, to: 12 })
  })
})
