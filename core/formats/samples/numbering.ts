import { parseNote, type MiddleC } from '../../audio/notes'

/** How the names of a set of samples say where each belongs. */
export const NUMBERINGS = ['bank and pad', 'note name', 'note number', 'number', 'stated note', 'order'] as const
export type Numbering = typeof NUMBERINGS[number]

/** A file as far as its numbering goes. */
export interface NumberedFile {
  /** Without folders and ending. */
  readonly stem: string
  /** The root note that the file itself states. */
  readonly rootNote: number | undefined
}

const BANK_AND_PAD = /^([A-H])[ _-]?(\d{1,2})(?!\d)/i
const NOTE_NAME = /(?:^|[ _\-.(])([A-G](?:#|♯|b|♭|s)?-?\d)(?=$|[ _\-.)])/
const NUMBER_FIRST = /^(\d{1,3})(?!\d)/
const NUMBER_LAST = /(\d{1,3})$/
/** So large a part of the files must be named in a way for it to be taken as the way they are named. */
const MOST_OF = 0.8
/** Numbers that begin below this count pads; notes of drums hardly lie there. */
const LOWEST_NOTE = 24

/** Finds out how files are numbered. */
export function numberingOf(files: readonly NumberedFile[], middleC: MiddleC): Numbering {
  const part = (suits: (file: NumberedFile) => boolean) => files.filter(suits).length / Math.max(1, files.length)
  if (part(file => BANK_AND_PAD.test(file.stem)) >= MOST_OF) return 'bank and pad'
  if (part(file => nameIn(file.stem, middleC) !== undefined) >= MOST_OF) return 'note name'
  const numbers = files.map(file => numberIn(file.stem)).filter(number => number !== undefined)
  if (numbers.length / Math.max(1, files.length) >= MOST_OF) return Math.min(...numbers) >= LOWEST_NOTE && Math.max(...numbers) <= 127 ? 'note number' : 'number'
  const stated = new Set(files.map(file => file.rootNote))
  return !stated.has(undefined) && stated.size > files.length / 2 ? 'stated note' : 'order'
}

/** The place of each file in the order of pads, by one way of numbering: a note, or a number of a pad. Undefined where its name says none. */
export function placesOf(files: readonly NumberedFile[], way: Numbering, middleC: MiddleC): (number | undefined)[] {
  switch (way) {
    case 'bank and pad': {
      const read = files.map(file => BANK_AND_PAD.exec(file.stem))
      const inBank = Math.max(1, ...read.map(match => match ? Number(match[2]) : 1))
      return read.map(match => match ? (match[1]!.toUpperCase().charCodeAt(0) - 65) * inBank + Math.max(0, Number(match[2]) - 1) : undefined)
    }
    case 'note name':
      return files.map(file => nameIn(file.stem, middleC))
    case 'note number':
    case 'number':
      return files.map(file => numberIn(file.stem))
    case 'stated note':
      return files.map(file => file.rootNote)
    case 'order':
      return files.map((_, i) => i)
  }
}

/** True where places are notes, false where they count pads. */
export function isByNote(way: Numbering): boolean {
  return way === 'note name' || way === 'note number' || way === 'stated note'
}

function nameIn(stem: string, middleC: MiddleC): number | undefined {
  const match = NOTE_NAME.exec(stem)
  return match ? parseNote(match[1]!.replace('s', '#'), middleC) : undefined
}

function numberIn(stem: string): number | undefined {
  const match = NUMBER_FIRST.exec(stem) ?? NUMBER_LAST.exec(stem)
  return match ? Number(match[1]) : undefined
}
