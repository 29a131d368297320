import { noteName, type MiddleC } from '~~/core/audio/notes'
import type { FoundRow } from '~~/contract/library'
import { tempoShown } from '../parts/useFormat'

const UNKNOWN = '–'

/** Columns that say all they have to say in words and figures; units stand in their titles. The others are drawn by `SoundCell`. */
const TEXTS: Readonly<Record<string, (row: FoundRow, middleC: MiddleC) => string>> = {
  folder: row => row.folder,
  length: row => row.lengthSeconds.toFixed(2),
  sounds: row => row.effectiveSeconds === null ? UNKNOWN : row.effectiveSeconds.toFixed(2),
  loudness: row => row.hitLufs === null ? UNKNOWN : row.hitLufs.toFixed(1),
  bright: row => row.brightness === null ? UNKNOWN : String(row.brightness),
  note: (row, middleC) => row.pitchNote === null ? UNKNOWN : noteWithCents(row.pitchNote, middleC),
  tempo: row => row.tempo === null ? UNKNOWN : String(tempoShown(row.tempo)),
  peak: row => row.truePeakDb === null ? UNKNOWN : row.truePeakDb.toFixed(1),
  rate: row => String(row.sampleRate / 1000),
  bits: row => row.bitDepth === 0 ? UNKNOWN : String(row.bitDepth),
  channels: row => row.channels === 1 ? 'mono' : row.channels === 2 ? 'stereo' : String(row.channels),
  tags: row => row.tags.join(', '),
  added: row => row.addedAt.slice(0, 10),
}

const WORDS = new Set(['folder', 'channels', 'tags'])

/** What a column says of a sound, where that is text alone. */
export function soundText(column: string, row: FoundRow, middleC: MiddleC): string | undefined {
  return TEXTS[column]?.(row, middleC)
}

/** Whether a column's text is words, which may be cut short, or a figure. */
export function isWords(column: string): boolean {
  return WORDS.has(column)
}

function noteWithCents(pitch: number, middleC: MiddleC): string {
  const nearest = Math.round(pitch)
  const cents = Math.round((pitch - nearest) * 100)
  const name = noteName(Math.max(0, Math.min(127, nearest)), middleC)
  return cents === 0 ? name : `${name} ${cents > 0 ? '+' : '−'}${Math.abs(cents)}`
}
