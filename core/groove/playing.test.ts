import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyKit, wholeLayer, type Kit, type Pad } from '../kit/document'
import { assignParts, unheard } from './assign'
import { barTicks, countHits, emptyPattern, parsePattern, type Pattern } from './document'
import { addHits, addPart } from './edits'
import { noteChart } from './noteChart'
import { alternatesAsked, playedOn } from './played'
import { hitFrom, partForPad, recordHit } from './record'
import { shippedId, SHIPPED_PATTERNS } from './shipped'
import { patternFromSteps } from './steps'
import { swung } from './swing'

const sound = { id: 'a'.repeat(64), name: 'x', frames: 10, sampleRate: 48_000, channels: 1 }

/** A kit whose first pads have these roles and notes, each with a sound. */
function kitOf(...pads: [role: string | null, note: number][]): Kit {
  const empty = emptyKit('k')
  return { ...empty, pads: empty.pads.map((pad, i): Pad => pads[i] ? { ...pad, role: pads[i][0], note: pads[i][1], name: `pad ${i}`, layers: [wholeLayer(sound)] } : { ...pad, note: 100 + i }) }
}

function patternOf(...parts: [role: string | null, note: number][]): Pattern {
  return parts.reduce((pattern, [role, note], i) => addHits(addPart(pattern, { name: `${role}`, role, note }), `part-${i + 1}`, [{ tick: i * 10, velocity: 90, length: 60 }]).pattern, emptyPattern('p'))
}

const padsOf = (pattern: Pattern, kit: Kit, ...more: [way?: 'kind' | 'note', byHand?: Record<string, number | null>]) => [...assignParts(pattern, kit, more[0] ?? 'kind', more[1]).values()]

describe('parts find their pads', () => {
  it('by kind, whatever the note', () => {
    expect(padsOf(patternOf(['kick', 36], ['snare', 38]), kitOf(['snare', 60], ['kick', 61]))).toEqual([1, 0])
  })

  it('of several pads of a kind each part gets its own, the one on its note first', () => {
    expect(padsOf(patternOf(['tom.low', 41], ['tom.low', 45]), kitOf(['tom.low', 45], ['tom.low', 43]))).toEqual([1, 0])
  })

  it('of a pad over a range each part plays its own note, where it lies within', () => {
    const plain = kitOf(['tom.low', 50])
    const kit = { ...plain, pads: plain.pads.with(0, { ...plain.pads[0]!, range: { low: 45, high: 55, root: 50, trackCents: 100 } }) }
    const pattern = patternOf([null, 47], [null, 53], ['tom.low', 60])
    const played = playedOn(pattern, kit, assignParts(pattern, kit, 'kind'))
    expect([...played.notes]).toEqual([47, 53, 50])
  })

  it('by their own kind before a near one that lies on their note', () => {
    expect(padsOf(patternOf(['hat.closed', 42], ['hat.open', 46]), kitOf(['hat.closed', 41], ['hat.open', 42]))).toEqual([0, 1])
    expect(padsOf(patternOf(['hat.closed', 42]), kitOf(['hat.pedal', 41], ['hat.open', 42]))).toEqual([1])
  })

  it('by the nearest kind, and by the note where there is none', () => {
    expect(padsOf(patternOf(['hat.closed', 42], ['cymbal.crash', 49]), kitOf(['hat.open', 46], ['cymbal.ride', 51]))).toEqual([0, 1])
    expect(padsOf(patternOf(['voice', 61]), kitOf(['kick', 36], ['wood', 61]))).toEqual([1])
  })

  it('by note alone, and by hand before all', () => {
    const kit = kitOf(['snare', 36], ['kick', 38])
    expect(padsOf(patternOf(['kick', 36], ['snare', 38]), kit, 'note')).toEqual([0, 1])
    expect(padsOf(patternOf(['kick', 36], ['snare', 38]), kit, 'kind', { 'part-1': 36, 'part-2': null })).toEqual([0, null])
  })

  it('those that find none are counted, with their hits', () => {
    const pattern = patternOf(['kick', 36], ['metal.gong', 90])
    const { parts, hits } = unheard(pattern, assignParts(pattern, kitOf(['kick', 36]), 'kind'))
    expect(parts.map(part => part.role)).toEqual(['metal.gong'])
    expect(hits).toBe(1)
  })

  it('pads without a sound are not found', () => {
    const kit = kitOf(['kick', 36])
    expect(padsOf(patternOf(['kick', 36]), { ...kit, pads: kit.pads.map(pad => ({ ...pad, layers: [] })) })).toEqual([null])
  })
})

describe('a pattern as it is played', () => {
  it('has the notes of the pads, in order, within some bars, swung, without those left out', () => {
    const kit = kitOf(['kick', 50], ['snare', 51])
    let pattern: Pattern = { ...patternOf(['kick', 36], ['snare', 38]), swing: { percent: 75, step: 8 } }
    pattern = addHits(pattern, 'part-1', [480, 3840 + 480].map(tick => ({ tick, velocity: 70, length: 240, alternate: 5 }))).pattern
    const assignment = assignParts(pattern, kit, 'kind')
    const whole = playedOn(pattern, kit, assignment)
    expect([...whole.ticks]).toEqual([0, 15, 720, 3840 + 720])
    expect([...whole.notes]).toEqual([50, 51, 50, 50])
    expect([...whole.alternates]).toEqual([-1, -1, 5, 5])
    const second = playedOn(pattern, kit, assignment, { bars: { from: 1, to: 2 } })
    expect([...second.ticks]).toEqual([720])
    expect(second.lengthTicks).toBe(3840)
    expect(playedOn(pattern, kit, assignment, { without: new Set(pattern.parts[0]!.hits) }).ticks).toHaveLength(1)
    expect(alternatesAsked(pattern, assignment)).toEqual(new Map([[0, new Set([5])]]))
  })

  it('has every hit of every part that falls into its bars once, in the order of ticks and notes, whatever the parts, metre and swing', () => {
    const hits = fc.array(fc.record({ tick: fc.integer({ min: 0, max: 9_000 }), velocity: fc.integer({ min: 1, max: 127 }), length: fc.integer({ min: 1, max: 500 }) }), { maxLength: 30 })
    fc.assert(fc.property(fc.array(hits, { minLength: 1, maxLength: 5 }), fc.constantFrom({ beats: 4, unit: 4 } as const, { beats: 7, unit: 8 } as const), fc.integer({ min: 50, max: 75 }), fc.constantFrom(8 as const, 16 as const), fc.nat(2), (parts, metre, percent, step, from) => {
      const kit = kitOf(...parts.map((_, i): [string, number] => ['kick', 40 + (i * 3) % 5]))
      let pattern: Pattern = { ...emptyPattern('p', 4), metre, swing: { percent, step } }
      parts.forEach((own, i) => {
        pattern = addPart(pattern, { name: `${i}`, role: 'kick', note: 40 + (i * 3) % 5 })
        pattern = addHits(pattern, `part-${i + 1}`, own.filter(hit => hit.tick < 4 * barTicks(metre))).pattern
      })
      const assignment = new Map(parts.map((_, i) => [`part-${i + 1}`, i]))
      const played = playedOn(pattern, kit, assignment, { bars: { from, to: from + 2 } })
      const [first, last] = [from * barTicks(metre), (from + 2) * barTicks(metre)]
      // The same by plain sorting.
      const expected = pattern.parts.flatMap((part, i) => part.hits.filter(hit => hit.tick >= first && hit.tick < last).map(hit => [swung(hit.tick, pattern.swing) - first, kit.pads[i]!.note, hit.velocity]))
        .filter(([tick]) => tick! < last - first).sort(([a, n], [b, m]) => a! - b! || n! - m!)
      expect([...played.ticks].map((tick, i) => [tick, played.notes[i], played.velocities[i]])).toEqual(expected)
    }))
  })
})

describe('recording', () => {
  it('writes into the part that sounds the pad, or a new one', () => {
    const kit = kitOf(['kick', 36], ['snare', 38])
    const pattern = patternOf(['kick', 36])
    const known = partForPad(pattern, kit, assignParts(pattern, kit, 'kind'), 0)
    expect(known).toEqual({ pattern, partId: 'part-1' })
    const fresh = partForPad(pattern, kit, assignParts(pattern, kit, 'kind'), 1)
    expect(fresh.pattern.parts[1]).toMatchObject({ id: 'part-2', role: 'snare', note: 38, name: 'pad 1' })
  })

  it('takes off the swing, draws to a grid, and begins anew past the end', () => {
    const pattern: Pattern = { ...emptyPattern('p', 1), swing: { percent: 75, step: 8 } }
    expect(hitFrom({ padIndex: 0, place: 720, velocity: 9 }, pattern, 50, { from: 0, to: 3840 })).toEqual({ tick: 480, velocity: 9, length: 50 })
    const options = { grid: { value: 16, feel: 'straight' }, strengthPercent: 100, windowPercent: 100, swingPercent: 50 } as const
    expect(hitFrom({ padIndex: 0, place: 3830, velocity: 9 }, emptyPattern('p', 1), 50, { from: 0, to: 3840 }, options)).toEqual({ tick: 0, velocity: 9, length: 50, playedTick: 3830 })
    expect(hitFrom({ padIndex: 0, place: 7675, velocity: 9 }, emptyPattern('p', 4), 50, { from: 3840, to: 7680 }, options).tick).toBe(3840)
  })

  it('keeps the harder of two hits at one tick', () => {
    const pattern = patternOf(['kick', 36])
    const twice = recordHit(recordHit(pattern, 'part-1', { tick: 5, velocity: 80, length: 1 }), 'part-1', { tick: 5, velocity: 60, length: 9 })
    expect(twice.parts[0]!.hits).toEqual([{ tick: 0, velocity: 90, length: 60 }, { tick: 5, velocity: 80, length: 9 }])
  })
})

describe('the patterns that come with it', () => {
  it('are whole, with names of their own, in several metres and tempos, straight and swung', () => {
    const all = SHIPPED_PATTERNS.map(patternFromSteps)
    expect(all.length).toBeGreaterThanOrEqual(40)
    expect(new Set(SHIPPED_PATTERNS.map(shippedId)).size).toBe(all.length)
    for (const pattern of all) expect(parsePattern(pattern)).toEqual(pattern)
    expect(new Set(all.map(({ metre }) => `${metre.beats}/${metre.unit}`)).size).toBeGreaterThanOrEqual(6)
    expect(all.filter(pattern => pattern.swing.percent > 50).length).toBeGreaterThanOrEqual(8)
    expect(Math.max(...all.map(countHits)) / Math.min(...all.map(countHits))).toBeGreaterThan(5)
  })

  it('have lines that fill whole bars', () => {
    for (const { name, lines, steps = 16, bars } of SHIPPED_PATTERNS) {
      for (const [kind, line] of Object.entries(lines)) expect(steps * bars % line.replaceAll(' ', '').length, `${name}, ${kind}`).toBe(0)
    }
  })

  it('a line of steps has its hits where it says', () => {
    const pattern = patternFromSteps({ name: 'x', folder: '', tags: [], tempoBpm: 100, bars: 1, lines: { kick: '9...' } })
    expect(pattern.parts[0]!.hits.map(hit => hit.tick)).toEqual([0, 960, 1920, 2880])
    expect(pattern.parts[0]).toMatchObject({ role: 'kick', note: 36, name: 'Kick' })
    expect(barTicks(pattern.metre)).toBe(3840)
  })
})

describe('the chart of notes', () => {
  it('has every note with its names, its percussion key, and its pads', () => {
    const chart = noteChart(kitOf(['kick', 36]))
    expect(chart).toHaveLength(128)
    // Octave names: common practice (references.md): 36 is C1 or C2, 61 is C#3 or C#4; keys: General MIDI System Level 1.
    expect(chart[36]).toEqual({ note: 36, middleC3: 'C1', middleC4: 'C2', percussionKey: 'Bass Drum 1', pads: ['A1 pad 0'] })
    expect(chart[61]).toMatchObject({ middleC3: 'C#3', middleC4: 'C#4', percussionKey: 'Low Bongo', pads: [] })
  })
})
