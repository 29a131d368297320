import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { decideKind as decide, LEAST_CONFIDENCE, type KindWitnesses } from './decideKind'
import { KINDS } from './kinds'

const guess = (path: string, confidence: number) => ({ path, confidence, evidence: path })
const decideKind = (witnesses: KindWitnesses) => decide(witnesses, [])
const none = { file: null, name: null, audio: null }

describe('the kind that three witnesses make out', () => {
  it('a word in the name goes before what was heard', () => {
    expect(decideKind({ ...none, name: guess('snare', 0.9), audio: guess('clap', 0.95) })?.path).toBe('snare')
  })
  it('a folder that says otherwise gives way to what is clearly heard', () => {
    expect(decideKind({ ...none, name: guess('kick', 0.75), audio: guess('hat.closed', 0.95) })?.path).toBe('hat.closed')
    expect(decideKind({ ...none, name: guess('kick', 0.75), audio: guess('hat.closed', 0.9) })?.path).toBe('kick')
  })
  it('letters that may be anything give way sooner', () => {
    expect(decideKind({ ...none, name: guess('hand.conga', 0.45), audio: guess('tom', 0.7) })?.path).toBe('tom')
    expect(decideKind({ ...none, name: guess('hand.conga', 0.45), audio: guess('tom', 0.6) })?.path).toBe('hand.conga')
  })
  it('the finer of two that agree is taken, and both together are surer', () => {
    const kind = decideKind({ ...none, name: guess('hat', 0.9), audio: guess('hat.open', 0.8) })
    expect(kind?.path).toBe('hat.open')
    expect(kind?.confidence).toBeGreaterThan(0.9)
    expect(decideKind({ ...none, name: guess('tom.high', 0.9), audio: guess('tom', 0.7) })?.path).toBe('tom.high')
    expect(decideKind({ ...none, name: guess('hat.pedal', 0.9), audio: guess('hat.closed', 0.9) })?.path).toBe('hat.pedal')
  })
  it('a loop of several hits in a folder of loops is one, however sure its first hit is heard', () => {
    const kick = { ...none, name: guess('loop', 0.75), audio: guess('kick', 0.99) }
    expect(decide(kick, ['several-hits'])).toEqual(guess('loop', 0.75))
    expect(decide(kick, [])?.path).toBe('kick')
    expect(decide({ ...none, name: guess('hand', 0.75), audio: guess('kick', 0.99) }, ['several-hits'])?.path).toBe('kick')
  })
  it('what a stated tempo makes a loop is one, whatever instrument is named or heard, the surer where it is heard as one', () => {
    const loop = { path: 'loop', confidence: 0.9, evidence: '"124bpm" in its name, and it has several hits' }
    const bongo = { ...none, name: guess('hand.bongo', 0.9), audio: guess('hand', 0.99) }
    expect(decide(bongo, ['several-hits'], loop)).toEqual(loop)
    expect(decide(bongo, ['several-hits'])?.path).toBe('hand.bongo')
    expect(decide({ ...bongo, audio: guess('loop', 0.9) }, ['several-hits', 'loop'], loop)).toMatchObject({ path: 'loop', confidence: expect.closeTo(0.99, 5) })
    expect(decide({ ...none, name: guess('loop', 0.75) }, ['several-hits'], loop)).toEqual(guess('loop', 0.75))
  })
  it('a faint hearing alone is no kind', () => {
    expect(decideKind({ ...none, audio: guess('rim', LEAST_CONFIDENCE - 0.01) })).toBeUndefined()
    expect(decideKind({ ...none, audio: guess('rim', LEAST_CONFIDENCE) })?.path).toBe('rim')
    expect(decideKind(none)).toBeUndefined()
  })
  it('never says what no witness said, and never more than certainty', () => {
    const witness = fc.option(fc.record({ path: fc.constantFrom(...KINDS.map(kind => kind.path)), confidence: fc.double({ min: 0, max: 1, noNaN: true }), evidence: fc.constant('e') }))
    fc.assert(fc.property(witness, witness, witness, (file, name, audio) => {
      const kind = decideKind({ file, name, audio })
      if (!kind) return
      expect([file, name, audio].some(given => given?.path === kind.path)).toBe(true)
      expect(kind.confidence).toBeGreaterThanOrEqual(0)
      expect(kind.confidence).toBeLessThanOrEqual(1)
    }))
  })
})
