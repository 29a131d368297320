import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyDifference, differenceOf, differenceSchema, invertDifference, type Difference } from './difference'

type Json = string | number | boolean | null | readonly Json[] | { readonly [key: string]: Json }

const json: fc.Arbitrary<Json> = fc.letrec<{ value: Json }>(tie => ({
  value: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.oneof(fc.integer({ min: 0, max: 5 }), fc.string({ maxLength: 3 }), fc.boolean(), fc.constant(null)),
    fc.array(tie('value'), { maxLength: 6 }),
    fc.dictionary(fc.constantFrom('a', 'b', 'c', 'list'), tie('value'), { maxKeys: 4 }),
  ),
})).value

/** Another state of a document, most of which is the same objects. */
function edited(value: Json, random: () => number): Json {
  if (random() < 0.2) return Math.floor(random() * 10)
  if (Array.isArray(value)) {
    const list = [...value as readonly Json[]]
    const at = Math.floor(random() * (list.length + 1))
    if (random() < 0.4) list.splice(at, random() < 0.5 ? 1 : 0, ...random() < 0.6 ? [{ new: Math.floor(random() * 9) }] : [])
    else if (at < list.length) list[at] = edited(list[at]!, random)
    return list
  }
  if (typeof value === 'object' && value !== null) {
    const keys = Object.keys(value)
    const key = keys[Math.floor(random() * keys.length)]
    if (key === undefined || random() < 0.2) return { ...value, [random() < 0.5 ? 'a' : 'added']: 7 }
    if (random() < 0.2) return Object.fromEntries(Object.entries(value).filter(([one]) => one !== key))
    return { ...value, [key]: edited((value as Record<string, Json>)[key]!, random) }
  }
  return 99
}

const states = fc.tuple(json, fc.infiniteStream(fc.double({ min: 0, max: 0.999, noNaN: true })), fc.integer({ min: 1, max: 8 })).map(([before, chances, times]) => {
  const random = () => chances.next().value
  let after = before
  for (let i = 0; i < times; i++) after = edited(after, random)
  return { before, after }
})

const overTheWire = (difference: Difference) => differenceSchema.parse(JSON.parse(JSON.stringify(difference)))

describe('the difference of two states', () => {
  it('leads from one to the other and back, by itself and as it goes over the wire', () => {
    fc.assert(fc.property(fc.oneof(states, fc.record({ before: json, after: json })), ({ before, after }) => {
      const difference = differenceOf(before, after)
      expect(applyDifference(before, difference)).toEqual(after)
      expect(applyDifference(after, invertDifference(difference))).toEqual(before)
      expect(applyDifference(before, overTheWire(difference))).toEqual(after)
      expect(applyDifference(after, overTheWire(invertDifference(difference)))).toEqual(before)
      expect(invertDifference(invertDifference(difference))).toEqual(difference)
    }), { numRuns: 500 })
  })

  it('never changes the state that it is applied to', () => {
    fc.assert(fc.property(states, ({ before, after }) => {
      const text = JSON.stringify(before)
      applyDifference(before, differenceOf(before, after))
      expect(JSON.stringify(before)).toBe(text)
    }))
  })

  it('is nothing between equal states, and as small as what changed; what it does not touch stays the same objects', () => {
    const pads = Array.from({ length: 128 }, (_, i) => ({ name: `Pad ${i}`, gainDb: 0, layers: [{ sound: i }] }))
    const before = { name: 'Quay', pads }
    expect(differenceOf(before, structuredClone(before))).toEqual([])
    const after = { ...before, pads: pads.with(3, { ...pads[3]!, gainDb: -6 }) }
    const difference = differenceOf(before, after)
    expect(difference).toEqual([{ at: ['pads', 3, 'gainDb'], was: 0, is: -6 }])
    const applied = applyDifference(before, difference)
    expect(applied.pads.map((pad, i) => pad === pads[i])).toEqual(pads.map((_, i) => i !== 3))
    expect(applied.pads[3]!.layers).toBe(pads[3]!.layers)
  })

  it('takes what comes into a list, or goes from it, for that alone', () => {
    const [one, two, three, four] = [{ n: 1 }, { n: 2 }, { n: 3 }, { n: 4 }]
    expect(differenceOf([one, two, three], [one, four, two, three])).toEqual([{ at: [], from: 1, was: [], is: [four] }])
    expect(differenceOf({ hits: [one, two, three] }, { hits: [one] })).toEqual([{ at: ['hits'], from: 1, was: [two, three], is: [] }])
  })

  it('that changes something that is not there is refused in a sentence', () => {
    const state = { pads: [{ name: 'a' }] }
    const strange: Difference[] = [
      [{ at: ['pads', 1, 'name'], was: 'b', is: 'c' }],
      [{ at: ['pads', 'name'], is: 'c' }],
      [{ at: ['kits', 0], is: 'c' }],
      [{ at: ['pads'], from: 1, was: [1], is: [] }],
      [{ at: ['pads', 0], from: 0, was: [], is: [] }],
      [{ at: ['pads', 0, 'name', 'first'], is: 'c' }],
    ]
    for (const difference of strange) expect(() => applyDifference(state, difference), JSON.stringify(difference)).toThrow(/not there: pads|not there: kits.*\n?.*Nothing was changed/)
  })

  it('comes in only where it has the form of one, and never reaches what all objects have in common', () => {
    for (const wrong of [null, {}, [{}], [{ at: 'pads' }], [{ at: [-1] }], [{ at: [], from: 0 }], [{ at: ['__proto__', 'x'], is: 1 }], [{ at: [], is: 1, extra: 2 }]]) expect(differenceSchema.safeParse(wrong).success, JSON.stringify(wrong)).toBe(false)
    expect(() => applyDifference({}, [{ at: ['constructor', 'x'], is: 1 }])).toThrow(/not there/)
  })
})
