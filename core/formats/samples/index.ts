import Papa from 'papaparse'
import { noteName, type MiddleC } from '../../audio/notes'
import { MOST_LAYERS } from '../../kit/document'

/** One line of the list that lies beside a set of samples. */
export interface SampleEntry {
  readonly file: string
  readonly bank: string
  readonly pad: number
  readonly note: number
  readonly kind: string | null
  /** Of the pad. */
  readonly name: string
  /** Of the layer's own sample, as the kit calls it. */
  readonly layer: string
  readonly lowVelocity: number
  readonly highVelocity: number
  readonly turn: number | null
  readonly chokeGroup: number | null
  readonly seconds: number
  readonly bytes: number
}

export const INDEX_NAME = 'index.csv'
const COLUMNS = ['file', 'bank', 'pad', 'note', 'note name', 'kind', 'name', 'layer', 'low velocity', 'high velocity', 'turn', 'choke group', 'seconds', 'bytes'] as const
const MOST_ENTRIES = 20_000

/** The list as CSV (RFC 4180), a line for each file. */
export function writeIndex(entries: readonly SampleEntry[], middleC: MiddleC): string {
  const rows = entries.map(one => [
    one.file, one.bank, one.pad, one.note, noteName(one.note, middleC), one.kind ?? '', one.name, one.layer, one.lowVelocity, one.highVelocity, one.turn ?? '', one.chokeGroup ?? '', one.seconds.toFixed(3), one.bytes,
  ])
  return `${Papa.unparse({ fields: [...COLUMNS], data: rows }, { newline: '\r\n', escapeFormulae: true })}\r\n`
}

/** Reads such a list, in whatever order its columns are; undefined when it is none. Lines that say no file and no note are passed over. */
export function readIndex(text: string): SampleEntry[] | undefined {
  const [titles = [], ...lines] = Papa.parse<string[]>(text, { skipEmptyLines: true, preview: MOST_ENTRIES + 1 }).data
  const places = new Map(titles.map((title, i) => [title.trim().toLowerCase(), i]))
  if (!places.has('file') || !places.has('note')) return undefined
  return lines.flatMap((line): SampleEntry[] => {
    const row: Readonly<Record<string, string | undefined>> = Object.fromEntries([...places].map(([title, i]) => [title, line[i]]))
    const note = whole(row.note, 0, 127)
    const file = unescaped(row.file ?? '')
    if (file === '' || note === null) return []
    return [{
      file, note, bank: row.bank ?? '', pad: whole(row.pad, 1, 128) ?? 1, kind: row.kind?.trim() ? row.kind.trim() : null, name: unescaped(row.name ?? ''), layer: unescaped(row.layer ?? ''),
      lowVelocity: whole(row['low velocity'], 1, 127) ?? 1, highVelocity: whole(row['high velocity'], 1, 127) ?? 127,
      turn: whole(row.turn, 1, MOST_LAYERS), chokeGroup: whole(row['choke group'], 1, 32), seconds: Number(row.seconds) || 0, bytes: Number(row.bytes) || 0,
    }]
  })
}

function whole(text: string | undefined, low: number, high: number): number | null {
  const value = Number(text)
  return text === undefined || text.trim() === '' || !Number.isInteger(value) || value < low || value > high ? null : value
}

/** A text that a table might take for a formula was given a quote in front. */
function unescaped(text: string): string {
  return /^'[=+\-@\t\r]/.test(text) ? text.slice(1) : text
}
