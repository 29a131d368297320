import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { record, redo, startHistory, undo, type History } from '../document/history'
import { applyDifference, differenceOf } from '../document/difference'
import { barTicks, countHits, emptyPattern, lengthSeconds, lengthTicks, MOST_HITS, parsePattern, type Hit, type Pattern } from './document'
import { addHits, addPart, changeHits, copyBars, copyHits, eraseHits, hitsBeyond, hitsWithin, moveHits, moveToParts, pasteHits, placesOf, removePart, setPattern, setVelocity, spreadVelocities, stillChosen, type Edited } from './edits'
import { figuresOf } from './figures'
import { asPlayed, FULLY, quantize } from './quantize'
import { halvePattern, repeatPattern, reverseHits, rotateHits, stretchHits } from './transform'

const hit = (tick: number, velocity = 100): Hit => ({ tick, velocity, length: 120 })

/** Two parts of two bars: a kick on 1 and 3, a snare on 2 and 4. */
function backbeat(): Pattern {
  let pattern = emptyPattern('Backbeat')
  pattern = addPart(pattern, { name: 'Kick', role: 'kick', note: 36 })
  pattern = addPart(pattern, { name: 'Snare', role: 'snare', note: 38 })
  pattern = addHits(pattern, 'part-1', [0, 1920, 3840, 5760].map(tick => hit(tick))).pattern
  return addHits(pattern, 'part-2', [960, 2880, 4800, 6720].map(tick => hit(tick, 80))).pattern
}

const ticksOf = (pattern: Pattern, part: number) => pattern.parts[part]!.hits.map(one => one.tick)
const all = (pattern: Pattern) => hitsWithin(pattern, 0, Infinity)

describe('the pattern document', () => {
  it('has bars as long as its metre says', () => {
    expect(barTicks({ beats: 4, unit: 4 })).toBe(3840)
    expect(barTicks({ beats: 7, unit: 8 })).toBe(3360)
    // Two bars of four quarters at 120 beats a minute are four seconds.
    expect(lengthSeconds({ metre: { beats: 4, unit: 4 }, bars: 2, tempoBpm: 120 })).toBe(4)
  })

  it('says of a newer one that it is newer, and of a broken one what is wrong', () => {
    expect(() => parsePattern({ ...emptyPattern('x'), schema: 9 })).toThrow(/newer Emporion/)
    expect(() => parsePattern({ ...emptyPattern('x'), tempoBpm: 4 })).toThrow(/tempoBpm/)
    const pattern = backbeat()
    expect(() => parsePattern({ ...pattern, parts: [{ ...pattern.parts[0], hits: [hit(9), hit(3)] }] })).toThrow(/not in order/)
    expect(parsePattern(JSON.parse(JSON.stringify(pattern)))).toEqual(pattern)
  })
})

describe('edits of hits', () => {
  it('keep hits in order and what was not touched the same', () => {
    const before = backbeat()
    const { pattern, chosen } = moveHits(before, new Set([before.parts[0]!.hits[0]!]), 2000)
    expect(ticksOf(pattern, 0)).toEqual([1920, 2000, 3840, 5760])
    expect(pattern.parts[1]).toBe(before.parts[1])
    expect([...chosen].map(one => one.tick)).toEqual([2000])
  })

  it('move no further than to the beginning, all by as much', () => {
    const before = backbeat()
    const { pattern } = moveHits(before, new Set([before.parts[1]!.hits[0]!, before.parts[0]!.hits[1]!]), -5000)
    expect(ticksOf(pattern, 1)[0]).toBe(0)
    expect(ticksOf(pattern, 0)).toEqual([0, 960, 3840, 5760])
  })

  it('move to another part', () => {
    const before = backbeat()
    const { pattern } = moveToParts(before, new Set(before.parts[0]!.hits.slice(0, 1)), () => 'part-2')
    expect(ticksOf(pattern, 0)).toEqual([1920, 3840, 5760])
    expect(ticksOf(pattern, 1)).toEqual([0, 960, 2880, 4800, 6720])
  })

  it('that change nothing give the same pattern', () => {
    const before = backbeat()
    expect(changeHits(before, all(before), one => ({ ...one })).pattern).toBe(before)
    expect(eraseHits(before, new Set()).pattern).toBe(before)
    expect(removePart(before, 'nobody')).toBe(before)
  })

  it('copy and paste, into a pattern that lacks the part too', () => {
    const before = backbeat()
    const copied = copyHits(before, new Set(before.parts[1]!.hits.slice(0, 2)))
    const pasted = pasteHits(emptyPattern('other'), copied, 100)
    expect(pasted.pattern.parts).toHaveLength(1)
    expect(ticksOf(pasted.pattern, 0)).toEqual([100, 2020])
    expect(pasted.chosen.size).toBe(2)
  })

  it('copy bars over others, of one part alone', () => {
    const before = addHits(backbeat(), 'part-1', [hit(240)]).pattern
    const { pattern } = copyBars(before, 0, 1, 1, new Set(['part-1']))
    expect(ticksOf(pattern, 0)).toEqual([0, 240, 1920, 3840, 4080, 5760])
    expect(pattern.parts[1]).toBe(before.parts[1])
    expect(copyBars(before, 0, 2, 2).pattern.bars).toBe(4)
  })

  it('set velocities, and draw them nearer to their mean', () => {
    const before = addHits(addPart(emptyPattern('x'), { name: '', role: null, note: 1 }), 'part-1', [hit(0, 40), hit(1, 80), hit(2, 120)]).pattern
    expect(spreadVelocities(before, all(before), 0).pattern.parts[0]!.hits.map(one => one.velocity)).toEqual([80, 80, 80])
    expect(spreadVelocities(before, all(before), 0.5).pattern.parts[0]!.hits.map(one => one.velocity)).toEqual([60, 80, 100])
    expect(setVelocity(before, all(before), one => one.velocity * 2).pattern.parts[0]!.hits.map(one => one.velocity)).toEqual([80, 127, 127])
  })

  it('hold no more hits than a pattern may have', () => {
    const part = addPart(emptyPattern('x'), { name: '', role: null, note: 1 })
    const full = addHits(part, 'part-1', Array.from({ length: MOST_HITS + 5 }, (_, i) => hit(i))).pattern
    expect(countHits(full)).toBe(MOST_HITS)
    expect(addHits(full, 'part-1', [hit(1)]).pattern).toBe(full)
  })
})

describe('whole selections', () => {
  it('are turned round, stretched and shifted', () => {
    const before = backbeat()
    const kick = new Set(before.parts[0]!.hits)
    expect(ticksOf(rotateHits(before, kick, 1920).pattern, 0)).toEqual([0, 1920, 3840, 5760])
    expect(ticksOf(rotateHits(before, kick, -240).pattern, 0)).toEqual([1680, 3600, 5520, 7440])
    expect(ticksOf(reverseHits(before, new Set([...before.parts[0]!.hits.slice(0, 2), before.parts[1]!.hits[1]!])).pattern, 0)).toEqual([960, 2880, 3840, 5760])
    expect(ticksOf(stretchHits(before, kick, 0.5).pattern, 0)).toEqual([0, 960, 1920, 2880])
  })

  it('a pattern is repeated, and halved without losing what lies beyond', () => {
    const before = backbeat()
    const twice = repeatPattern(before)
    expect(twice.bars).toBe(4)
    expect(ticksOf(twice, 0)).toEqual([0, 1920, 3840, 5760, 7680, 9600, 11520, 13440])
    const half = halvePattern(before)
    expect(half.bars).toBe(1)
    expect(hitsBeyond(half)).toBe(4)
    expect(setPattern(half, { bars: 2 })).toEqual(before)
  })
})

describe('figures of a part', () => {
  it('count hits and the range of velocities', () => {
    const pattern = addHits(backbeat(), 'part-1', [hit(99_999, 1), hit(480, 50)]).pattern
    const figures = figuresOf(pattern.parts[0]!, pattern)
    expect(figures).toMatchObject({ hits: 5, hitsPerBar: 2.5, softest: 50, hardest: 100 })
    // Velocity is squared, so half of it is 12.04 dB less.
    expect(figures.rangeDb).toBeCloseTo(12.04, 2)
    expect(figuresOf({ ...pattern.parts[0]!, hits: [] }, pattern)).toMatchObject({ hits: 0, softest: null, rangeDb: 0 })
  })
})

/** What can be done to a pattern, with a number that says to what. */
const STEPS: readonly ((pattern: Pattern, chosen: ReadonlySet<Hit>, n: number) => Edited)[] = [
  (pattern, _, n) => ({ pattern: addPart(pattern, { name: `Part ${n}`, role: n % 3 === 0 ? null : 'snare', note: n % 128 }), chosen: new Set() }),
  (pattern, _, n) => addHits(pattern, pattern.parts[n % Math.max(1, pattern.parts.length)]?.id ?? '', [hit(n * 37 % 9000, n % 127 + 1)]),
  (pattern, _, n) => ({ pattern, chosen: hitsWithin(pattern, n % 4000, n % 4000 + n) }),
  (pattern, chosen, n) => moveHits(pattern, chosen, n % 2000 - 1000),
  (pattern, chosen, n) => moveToParts(pattern, chosen, () => pattern.parts[n % Math.max(1, pattern.parts.length)]?.id),
  (pattern, chosen) => eraseHits(pattern, new Set([...chosen].slice(0, 3))),
  (pattern, chosen, n) => quantize(pattern, chosen, { grid: { value: 16, feel: n % 2 ? 'triplet' : 'straight' }, ...FULLY, strengthPercent: n % 101 }),
  (pattern, chosen) => asPlayed(pattern, chosen),
  (pattern, chosen, n) => spreadVelocities(pattern, chosen, n % 30 / 10),
  (pattern, chosen, n) => rotateHits(pattern, chosen, n - 500),
  (pattern, chosen) => reverseHits(pattern, chosen),
  (pattern, chosen, n) => stretchHits(pattern, chosen, n % 2 ? 0.5 : 2),
  (pattern, chosen, n) => pasteHits(pattern, copyHits(pattern, new Set([...chosen].slice(0, 20))), n),
  (pattern, _, n) => ({ pattern: setPattern(pattern, { bars: n % 6 + 1, tempoBpm: n % 500, swing: { percent: 50 + n % 26, step: 8 } }), chosen: new Set() }),
  (pattern, _, n) => copyBars(pattern, 0, 1, n % 4),
  (pattern, chosen, n) => ({ pattern: n % 9 === 0 ? removePart(pattern, pattern.parts[0]?.id ?? '') : pattern, chosen }),
]

describe('1,000 random edits and undos', () => {
  it('leave every state whole, and undo restores exactly', () => {
    fc.assert(fc.property(fc.array(fc.tuple(fc.nat(STEPS.length + 2), fc.nat(9999)), { minLength: 1000, maxLength: 1000 }), (moves) => {
      let history: History<Pattern> = startHistory(backbeat())
      let chosen: ReadonlySet<Hit> = new Set()
      const stack = [history.present]
      for (const [i, [kind, n]] of moves.entries()) {
        if (kind >= STEPS.length) {
          const before = history
          history = kind === STEPS.length ? undo(history) : redo(history)
          if (kind === STEPS.length && history !== before) expect(redo(history).present).toBe(before.present)
        }
        else {
          const now = history.present
          const edited = STEPS[kind]!(now, stillChosen(now, chosen), n)
          chosen = edited.chosen
          history = record(history, edited.pattern, 'edit')
          if (countHits(history.present) > 4_000) history = startHistory(backbeat())
          else if (history.present !== now) expect(applyDifference(now, differenceOf(now, history.present))).toEqual(history.present)
          if (edited.pattern !== now && history.past.length > 0) expect(undo(history).present).toBe(now)
        }
        if (i % 50 === 0) stack.push(parsePattern(history.present))
      }
      expect(placesOf(history.present, stillChosen(history.present, chosen)).every(({ part, hit: one }) => part.hits.includes(one))).toBe(true)
    }), { numRuns: 5 })
  })
})

describe('what changed of a pattern', () => {
  it('is only the parts that changed, and nothing that makes no whole pattern is taken', () => {
    const before = backbeat()
    const after = addHits(before, 'part-2', [hit(10)]).pattern
    const difference = differenceOf(before, after)
    expect(difference.map(({ at }) => at)).toEqual([['parts', 1, 'hits']])
    expect(parsePattern(applyDifference(before, JSON.parse(JSON.stringify(difference))))).toEqual(after)
    expect(() => applyDifference(before, [{ at: ['parts', 9, 'name'], was: 'a', is: 'b' }])).toThrow(/parts \/ 9/)
    expect(lengthTicks(after)).toBe(7680)
  })
})
