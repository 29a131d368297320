import { describe, expect, it } from 'vitest'
import { madeRow } from '../../tests/helpers/rows'
import { SOUND_COLUMNS } from './soundColumns'
import { isWords, soundText } from './soundText'

const DRAWN = ['wave', 'name', 'kind']

describe('what a column says of a sound', () => {
  it('is text for every column that is not drawn', () => {
    for (const { key } of SOUND_COLUMNS) expect(soundText(key, madeRow(1), 'C3') === undefined).toBe(DRAWN.includes(key))
  })

  it('is a bare figure, as its unit stands in the title, and a dash for what is not known', () => {
    const row = madeRow(1, { pitchNote: 61.2, tempo: 92.5, truePeakDb: -3.26, channels: 2, tags: ['dry', 'late'] })
    expect(['note', 'tempo', 'peak', 'loudness', 'channels', 'tags', 'added'].map(column => soundText(column, row, 'C3'))).toEqual(['C#3 +20', '92.5', '-3.3', '-18.0', 'stereo', 'dry, late', '2026-11-01'])
    const unknown = madeRow(2, { pitchNote: null, truePeakDb: null, brightness: null, effectiveSeconds: null, bitDepth: 0 })
    expect(['note', 'tempo', 'peak', 'bright', 'sounds', 'bits'].map(column => soundText(column, unknown, 'C3'))).toEqual(['–', '–', '–', '–', '–', '–'])
    expect(soundText('bright', madeRow(3, { brightness: 0 }), 'C3')).toBe('0')
  })

  it('names notes as the setting says, with cents below as well', () => {
    expect(soundText('note', madeRow(1, { pitchNote: 59.75 }), 'C4')).toBe('C4 −25')
    expect(soundText('note', madeRow(1, { pitchNote: 60 }), 'C3')).toBe('C3')
  })

  it('may be cut short where it is words', () => {
    expect(['folder', 'tags', 'loudness', 'bright'].map(isWords)).toEqual([true, true, false, false])
  })
})
