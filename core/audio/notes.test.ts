import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noteLabel, noteName, parseNote } from './notes'

describe('note names', () => {
  it('follow both conventions of middle C (common practice, references.md)', () => {
    expect([noteName(60, 'C3'), noteName(60, 'C4')]).toEqual(['C3', 'C4'])
    expect([noteName(36, 'C3'), noteName(36, 'C4')]).toEqual(['C1', 'C2'])
    expect([noteName(61, 'C3'), noteName(61, 'C4')]).toEqual(['C#3', 'C#4'])
    expect(noteLabel(36, 'C3')).toBe('36 · C1')
  })

  it('read back as they were written, as numbers and as names', () => {
    fc.assert(fc.property(fc.integer({ min: 0, max: 127 }), fc.constantFrom('C3' as const, 'C4' as const), (note, middleC) => {
      expect(parseNote(noteName(note, middleC), middleC)).toBe(note)
      expect(parseNote(String(note), middleC)).toBe(note)
    }))
    expect(parseNote('Db3', 'C3')).toBe(61)
  })

  it('take nothing that is no note', () => {
    for (const text of ['', '128', 'H2', 'C', '3C', 'C99', '-1', 'C#']) expect(parseNote(text, 'C4')).toBeUndefined()
  })
})
