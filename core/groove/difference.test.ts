import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drawn } from '../../tests/helpers/drawn'
import { applyDifference, differenceOf, differenceSchema } from '../document/difference'
import { emptyPattern, parsePattern, type Pattern } from './document'
import { addHits, addPart, eraseHits, setPattern } from './edits'

/** What a person does to a pattern, one after the other. */
const edit = fc.oneof(
  fc.record({ does: fc.constant('hit' as const), part: fc.nat(5), tick: fc.nat(7679), velocity: fc.integer({ min: 1, max: 127 }) }),
  fc.record({ does: fc.constant('part' as const), note: fc.nat(127) }),
  fc.record({ does: fc.constant('erase' as const), part: fc.nat(5) }),
  fc.record({ does: fc.constant('lose' as const), part: fc.nat(5) }),
  fc.record({ does: fc.constant('turn' as const) }),
  fc.record({ does: fc.constant('tempo' as const), bpm: fc.integer({ min: 30, max: 300 }) }),
)

function doOne(pattern: Pattern, one: typeof edit extends fc.Arbitrary<infer T> ? T : never): Pattern {
  const part = 'part' in one ? pattern.parts[one.part % Math.max(1, pattern.parts.length)] : undefined
  switch (one.does) {
    case 'hit': return part ? addHits(pattern, part.id, [{ tick: one.tick, velocity: one.velocity, length: 10 }]).pattern : pattern
    case 'part': return addPart(pattern, { name: `Note ${one.note}`, role: null, note: one.note })
    case 'erase': return part ? eraseHits(pattern, new Set(part.hits.slice(0, 1))).pattern : pattern
    case 'lose': return { ...pattern, parts: pattern.parts.filter(other => other !== part) }
    case 'turn': return { ...pattern, parts: [...pattern.parts].reverse() }
    case 'tempo': return setPattern(pattern, { tempoBpm: one.bpm })
  }
}

const start = () => drawn({ kick: [0, 960, 1920], snare: [960] })

describe('what changed of a pattern', () => {
  it('leads from any state to any later one, by itself and as it goes over the wire', () => {
    fc.assert(fc.property(fc.array(edit, { maxLength: 30 }), (edits) => {
      const before = start()
      const after = edits.reduce(doOne, before)
      const difference = differenceOf(before, after)
      expect(applyDifference(before, difference)).toEqual(after)
      const sent = differenceSchema.parse(JSON.parse(JSON.stringify(difference)))
      expect(parsePattern(applyDifference(before, sent))).toEqual(JSON.parse(JSON.stringify(after)))
    }))
  })

  it('is no more than the hits that changed, and parts that did not stay the same objects', () => {
    const before = start()
    const added = { tick: 480, velocity: 90, length: 60 }
    const after = addHits(before, before.parts[0]!.id, [added]).pattern
    const difference = differenceOf(before, after)
    expect(difference).toEqual([{ at: ['parts', 0, 'hits'], from: 1, was: [], is: [expect.objectContaining(added)] }])
    expect(applyDifference(before, difference).parts[1]).toBe(before.parts[1])
    expect(differenceOf(after, after)).toEqual([])
  })

  it('that speaks of a part that is not there changes nothing, and says so', () => {
    expect(() => applyDifference(start(), [{ at: ['parts', 9, 'name'], was: 'a', is: 'b' }])).toThrow(/parts \/ 9.*\n?.*Nothing was changed/s)
  })

  it('that makes no whole pattern is refused', () => {
    const before = emptyPattern('P')
    expect(() => parsePattern(applyDifference(before, [{ at: ['tempoBpm'], was: 120, is: 9_000 }]))).toThrow()
    expect(() => parsePattern(applyDifference(before, [{ at: ['parts'], from: 0, was: [], is: [{ id: 'p', hits: 'many' }] }]))).toThrow()
  })
})
