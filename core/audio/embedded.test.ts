import { expect, it } from 'vitest'
import { keptEmbedded } from './embedded'

it('keeps texts that can be kept, whatever a file holds, and numbers as they are', () => {
  const embedded = {
    rootNote: 38,
    info: { 'INAM': 'Deck\0snare', 'IC\0T': `${'long '.repeat(400)}` },
    cues: [{ id: 1, frame: 100, label: 'hit \uD83E' }, { id: 2, frame: 200 }],
    tags: { texts: { title: 'a\0b' }, bpm: 120, key: 'A\0m' },
  }
  const kept = keptEmbedded(embedded)
  expect(kept).toMatchObject({ rootNote: 38, cues: [{ id: 1, frame: 100, label: 'hit' }, { id: 2, frame: 200 }], tags: { texts: { title: 'a b' }, bpm: 120, key: 'A m' } })
  expect(kept.info).toEqual({ 'INAM': 'Deck snare', 'IC T': 'long '.repeat(100).trim() })
})

it('adds nothing to a file that says nothing', () => {
  expect(keptEmbedded({})).toEqual({})
})
