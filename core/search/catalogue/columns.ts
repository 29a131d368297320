import { FLAG_NAMES } from '../query/fields'
import { KINDS } from '../kinds'
import { barOf, cellOf, LENGTH_EDGES, LOUDNESS_EDGES, NOTE_EDGES } from './bars'
import type { CatalogueRow } from './row'

/** Stands for a kind that is not known; comes last in every order. */
export const NO_KIND = 255
export const KIND_NUMBERS: ReadonlyMap<string, number> = new Map(KINDS.map((kind, number) => [kind.path, number]))

/** What a sound is, one bit each. The flags of its figures come after these. */
export const MARK = { listed: 1, favourite: 2, aside: 4, used: 8, damaged: 16, copied: 32, measured: 64 } as const
const FIRST_FLAG = 7

export function flagBit(place: number): number {
  return 1 << FIRST_FLAG + place
}

export const COLUMN_NAMES = [
  'ids', 'kinds', 'marks', 'lengths', 'sounding', 'loudness', 'peaks', 'brightness', 'notes', 'tempos', 'rates', 'bits', 'channels', 'added',
  'lengthBars', 'loudnessBars', 'noteBars', 'cells', 'folders',
] as const

/** Columns that lists are sorted by. */
const SORTED_BY = ['kinds', 'lengths', 'sounding', 'loudness', 'peaks', 'brightness', 'notes', 'tempos', 'rates', 'bits', 'channels', 'added', 'folders'] as const

export type SavedColumns = Readonly<Pick<Columns, typeof COLUMN_NAMES[number]>>

/** The figures of all sounds, a column each; what is not known is NaN. Their places are called slots. */
export class Columns {
  private room = 1024
  ids = new Int32Array(this.room)
  kinds = new Uint8Array(this.room)
  marks = new Int32Array(this.room)
  lengths = new Float32Array(this.room)
  /** How long a sound really sounds; the length of its file as long as that is not known. */
  sounding = new Float32Array(this.room)
  loudness = new Float32Array(this.room)
  peaks = new Float32Array(this.room)
  brightness = new Float32Array(this.room)
  notes = new Float32Array(this.room)
  tempos = new Float32Array(this.room)
  rates = new Float32Array(this.room)
  bits = new Float32Array(this.room)
  channels = new Float32Array(this.room)
  added = new Uint32Array(this.room)
  /** Where each lies in the bars of the facets, worked out once: see `bars.ts`. */
  lengthBars = new Uint8Array(this.room)
  loudnessBars = new Uint8Array(this.room)
  noteBars = new Uint8Array(this.room)
  cells = new Uint8Array(this.room)
  /** The first of a sound's folders, by its number. */
  folders = new Int32Array(this.room)

  /** Writes a row, of one that is known over what was there. Gives true where something is another by which lists are sorted. */
  write(slot: number, row: CatalogueRow, folder: number, isKnown: boolean): boolean {
    if (slot >= this.room) this.grow(slot + 1)
    const before = isKnown ? SORTED_BY.map(name => this[name][slot]) : undefined
    this.ids[slot] = row.id
    this.kinds[slot] = row.kind === null ? NO_KIND : KIND_NUMBERS.get(row.kind) ?? NO_KIND
    this.marks[slot] = marksOf(row) | this.marks[slot]! & MARK.used
    this.lengths[slot] = row.lengthSeconds
    this.sounding[slot] = row.effectiveSeconds ?? row.lengthSeconds
    this.loudness[slot] = row.hitLufs ?? Number.NaN
    this.peaks[slot] = row.truePeakDb ?? Number.NaN
    this.brightness[slot] = row.brightness ?? Number.NaN
    this.notes[slot] = row.pitchNote ?? Number.NaN
    this.tempos[slot] = row.tempo ?? Number.NaN
    this.rates[slot] = row.sampleRate
    this.bits[slot] = row.bitDepth
    this.channels[slot] = row.channels
    this.added[slot] = row.addedSeconds
    this.folders[slot] = folder
    this.lengthBars[slot] = barOf(LENGTH_EDGES, this.sounding[slot]!)
    this.loudnessBars[slot] = barOf(LOUDNESS_EDGES, this.loudness[slot]!)
    this.noteBars[slot] = barOf(NOTE_EDGES, this.notes[slot]!)
    this.cells[slot] = cellOf(this.sounding[slot]!, this.brightness[slot]!)
    return before === undefined || SORTED_BY.some((name, i) => !Object.is(this[name][slot], before[i]))
  }

  /** The first so many rows of every column, to be written down. */
  save(size: number): SavedColumns {
    return Object.fromEntries(COLUMN_NAMES.map(name => [name, this[name].slice(0, size)])) as SavedColumns
  }

  /** Takes rows up that were written down. */
  restore(saved: SavedColumns): void {
    this.room = Math.max(this.room, saved.ids.length)
    Object.assign(this, saved)
    this.grow(this.room + 1)
  }

  private grow(least: number): void {
    this.room = Math.max(least, Math.ceil(this.room * 1.5))
    for (const name of COLUMN_NAMES) {
      const old = this[name]
      const made = new (old.constructor as new (length: number) => typeof old)(this.room)
      made.set(old)
      Object.assign(this, { [name]: made })
    }
  }
}

export function marksOf(row: CatalogueRow): number {
  const flags = row.flags.reduce((bits, flag) => bits | flagBit(FLAG_NAMES.indexOf(flag)), 0)
  return flags
    | (row.isListed ? MARK.listed : 0)
    | (row.favourite ? MARK.favourite : 0)
    | (row.aside ? MARK.aside : 0)
    | (row.isDamaged ? MARK.damaged : 0)
    | (row.fileCount > 1 ? MARK.copied : 0)
    | (row.isMeasured ? MARK.measured : 0)
}
