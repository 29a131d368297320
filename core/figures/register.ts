import type { Figures } from '../audio/analysis/figures'
import { isSurePitch } from '../audio/analysis/surePitch'
import { noteName, noteOfHz, noteWithCents, type MiddleC } from '../audio/notes'
import type { FigureFacet, KeptFigure, ShownFigure } from './declaration'

const digits = (count: number) => (value: number) => value.toFixed(count)

/**
 * The figures that lists show, sort and search by, in the order in which they are explained. The column of the database, what is
 * written into it, the catalogue and its file, the condition of the search line with its completion, the column of the list, the line of
 * the figures, the filters, and lists and answers that are written all follow from here.
 */
export const KEPT_FIGURES = [
  {
    name: 'length', key: 'lengthSeconds', storage: 'double precision', isAlways: true,
    text: digits(2), unit: 's',
    condition: { does: 'length of the file in seconds', example: 'length<0.5', unit: 's', also: ['duration'] },
    list: { title: 'Length, s', width: 72, weight: 5 },
  },
  {
    name: 'sounds', key: 'effectiveSeconds', storage: 'real', isAlways: false, of: figures => figures.timing?.effectiveSeconds ?? null, instead: 'length',
    text: digits(2), unit: 's',
    condition: { does: 'how long it really sounds, in seconds', example: 'sounds=0.1..0.4', unit: 's' },
    list: { title: 'Length heard, s', width: 104, weight: 9, isUsual: true },
    facet: { title: 'Length heard', edges: Array.from({ length: 25 }, (_, i) => Number((0.02 * 2 ** (i / 2)).toPrecision(2))), label: value => value < 1 ? `${Math.round(value * 1000)} ms` : `${value} s` },
    detail: { group: 'Time', label: 'Length heard', explained: 'Until it stays 60 dB below its peak, or in the noise of the recording' },
  },
  {
    name: 'loudness', key: 'hitLufs', storage: 'real', isAlways: false, of: figures => figures.level?.hitLufs ?? null,
    text: digits(1), unit: 'LUFS',
    condition: { does: 'loudness of its hit in LUFS', example: 'loudness>-20', unit: 'LUFS', also: ['lufs'] },
    list: { title: 'Loudness, LUFS', width: 108, weight: 7, isUsual: true },
    facet: { title: 'Loudness', edges: Array.from({ length: 25 }, (_, i) => -60 + i * 2.5), label: value => `${value} LUFS` },
    detail: { group: 'Level', label: 'Loudness of the hit', explained: 'Its loudest 400 ms after ITU-R BS.1770-4' },
  },
  {
    name: 'peak', key: 'truePeakDb', storage: 'real', isAlways: false, of: figures => figures.level?.truePeakDb ?? null,
    text: digits(1), unit: 'dBTP',
    condition: { does: 'true peak in dBTP', example: 'peak<-1', unit: 'dBTP' },
    list: { title: 'True peak, dBTP', width: 108, weight: 4 },
    detail: { group: 'Level', label: 'True peak', explained: 'ITU-R BS.1770-4, annex 2' },
  },
  {
    name: 'bright', key: 'brightness', storage: 'integer', isAlways: false, of: figures => figures.brightness,
    text: String, unit: 'of 100',
    condition: { does: 'brightness, 0 to 100', example: 'bright<30', also: ['brightness'] },
    list: { title: 'Bright', width: 52, weight: 4, isUsual: true },
    detail: { group: 'Colour', label: 'Brightness', explained: 'Its centre of gravity on a scale of equal intervals, 80 Hz to 12 kHz' },
  },
  {
    name: 'note', key: 'pitchNote', storage: 'real', isAlways: false, of: ({ pitch }) => pitch && isSurePitch(pitch) ? pitch.note + pitch.cents / 100 : null,
    text: noteWithCents,
    condition: { does: 'its pitch as a note or its number', example: 'note=C1..E1', unit: 'note' },
    otherConditions: [{ name: 'pitch', does: 'its pitch in Hz', example: 'pitch=50..70', unit: 'Hz', also: ['hz'], toKept: hz => noteOfHz(Math.max(1e-6, hz)) }],
    list: { title: 'Pitch', width: 74, weight: 5 },
    facet: { title: 'Pitch', edges: Array.from({ length: 29 }, (_, i) => 12 + i * 3), label: (value, middleC) => noteName(Math.min(127, value), middleC) },
  },
  {
    name: 'tempo', key: 'tempo', storage: 'real', isAlways: false,
    text: value => String(Number(value.toFixed(2))), unit: 'BPM',
    condition: { does: 'tempo in BPM that tags or name state', example: 'tempo=120..128', unit: 'BPM', also: ['bpm'] },
    list: { title: 'Tempo, BPM', width: 84, weight: 5 },
  },
  {
    name: 'rate', key: 'sampleRate', storage: 'integer', isAlways: true,
    text: String, per: 1000, unit: 'kHz',
    condition: { does: 'sample rate in Hz or kHz', example: 'rate=44.1khz', unit: 'Hz', thousandsBelow: 1000 },
    list: { title: 'Rate, kHz', width: 72, weight: 3 },
  },
  {
    name: 'bits', key: 'bitDepth', storage: 'integer', isAlways: true,
    text: value => value === 0 ? '–' : String(value), unit: 'bit',
    condition: { does: 'bit depth', example: 'bits>=24', also: ['depth'], isWhole: true },
    list: { title: 'Depth, bit', width: 72, weight: 3 },
  },
  {
    name: 'channels', key: 'channels', storage: 'integer', isAlways: true,
    text: value => value === 1 ? 'mono' : value === 2 ? 'stereo' : String(value),
    condition: { does: 'how many, or mono and stereo', example: 'channels=mono', isWhole: true, words: { mono: 1, stereo: 2 } },
    list: { title: 'Channels', width: 66, weight: 3, isWords: true },
  },
] as const satisfies readonly KeptFigure[]

/** The figures that are only shown, beside those that are kept. */
export const SHOWN_FIGURES: readonly ShownFigure[] = [
  { name: 'integrated', of: figures => figures.level?.integratedLufs ?? null, text: digits(1), unit: 'LUFS', detail: { group: 'Level', label: 'Integrated', explained: 'ITU-R BS.1770-4 with both gates; from 400 ms on' } },
  { name: 'sample-peak', of: figures => figures.level?.peakDb ?? null, text: digits(1), unit: 'dBFS', detail: { group: 'Level', label: 'Peak' } },
  { name: 'rms', of: figures => figures.level?.rmsDb ?? null, text: digits(1), unit: 'dBFS', detail: { group: 'Level', label: 'RMS' } },
  { name: 'crest', of: figures => figures.level?.crestDb ?? null, text: digits(1), unit: 'dB', detail: { group: 'Level', label: 'Crest', explained: 'Peak over RMS' } },
  { name: 'before', of: figures => figures.timing?.leadSeconds ?? null, text: digits(2), unit: 's', detail: { group: 'Time', label: 'Silence before' } },
  { name: 'after', of: figures => figures.timing?.tailSeconds ?? null, text: digits(2), unit: 's', detail: { group: 'Time', label: 'Silence after' } },
  { name: 'attack', of: figures => figures.timing && figures.timing.attackSeconds * 1000, text: digits(0), unit: 'ms', detail: { group: 'Time', label: 'Attack' } },
  { name: 'decay', of: figures => figures.timing?.decaySeconds ?? null, text: digits(2), unit: 's', detail: { group: 'Time', label: 'Decay by 60 dB', explained: 'At the speed of its decay, ISO 3382' } },
  { name: 'noise', of: figures => figures.timing?.noiseFloorDb ?? null, text: digits(1), unit: 'dBFS', detail: { group: 'Time', label: 'Noise', explained: 'What the recording holds without the sound', isLeftOut: true } },
]

type Kept = typeof KEPT_FIGURES[number]

/** What a figure that is kept is called. */
export type FigureName = Kept['name']
/** Its property of a row of sounds. */
export type FigureKey = Kept['key']
/** The same, of those that are drawn out of what was measured. */
type MeasuredKey = Extract<Kept, { readonly of: unknown }>['key']
/** Conditions of the search line that a range can be given for. */
export type NumberCondition = FigureName | Extract<Kept, { readonly otherConditions: readonly unknown[] }>['otherConditions'][number]['name']
/** Figures that have bars among the filters. */
export type FacetName = Extract<Kept, { readonly facet: unknown }>['name']

/** Every figure that is kept, as the property of a row; null where a sound has none. */
export type FigureValues = { readonly [Figure in Kept as Figure['key']]: Figure['isAlways'] extends true ? number : number | null }

export const FIGURE_NAMES = KEPT_FIGURES.map(figure => figure.name)

/** A value by the name of each figure that is kept. */
export function byFigure<T>(make: (figure: Kept & KeptFigure) => T): Record<FigureName, T> {
  return Object.fromEntries(KEPT_FIGURES.map(figure => [figure.name, make(figure)])) as Record<FigureName, T>
}

/** A value by the name of each figure that has bars. */
export function byFacet<T>(make: (name: FacetName, facet: FigureFacet) => T): Record<FacetName, T> {
  return Object.fromEntries(KEPT_FIGURES.flatMap(figure => 'facet' in figure ? [[figure.name, make(figure.name, figure.facet)]] : [])) as Record<FacetName, T>
}

const CONDITIONS = new Map<string, { readonly figure: FigureName, readonly toKept: (value: number) => number }>(KEPT_FIGURES.flatMap((figure: Kept & KeptFigure) => [
  [figure.name, { figure: figure.name, toKept: (value: number) => value }] as const,
  ...(figure.otherConditions ?? []).map(other => [other.name, { figure: figure.name, toKept: other.toKept }] as const),
]))

/** The figure that a condition is about, and how its values become those of the figure. */
export function figureOfCondition(name: NumberCondition): { readonly figure: FigureName, readonly toKept: (value: number) => number } {
  return CONDITIONS.get(name)!
}

/** What the columns of the database get of a sound that was measured. */
export function measuredFigures(figures: Figures): Record<MeasuredKey, number | null> {
  return Object.fromEntries(KEPT_FIGURES.flatMap(figure => 'of' in figure ? [[figure.key, figure.of(figures)]] : [])) as Record<MeasuredKey, number | null>
}

const UNKNOWN = '–'

/** A figure as text without its unit; a dash where there is none. */
export function figureText({ text, per = 1 }: Pick<KeptFigure, 'text' | 'per'>, value: number | null, middleC: MiddleC): string {
  return value === null ? UNKNOWN : text(value / per, middleC)
}

/** A figure for a table that is written: in the unit of its title, as exact as a column of the database is at least; empty where there is none. */
export function writtenFigure({ per = 1 }: Pick<KeptFigure, 'per'>, value: number | null): string {
  return value === null ? '' : String(Number((value / per).toPrecision(6)))
}

/** The lines of a group among all that is known of a sound: what it is called, the figure with its unit, and how it is come by. */
export function detailLines(group: 'Level' | 'Time' | 'Colour', figures: Figures, middleC: MiddleC): readonly (readonly [label: string, value: string, explained: string | undefined])[] {
  return [...KEPT_FIGURES, ...SHOWN_FIGURES].flatMap((figure: KeptFigure | ShownFigure) => {
    if (figure.detail?.group !== group || !figure.of) return []
    const value = figure.of(figures)
    if (value === null && figure.detail.isLeftOut) return []
    const text = figureText(figure, value, middleC)
    return [[figure.detail.label, value === null || !figure.unit ? text : `${text} ${figure.unit}`, figure.detail.explained] as const]
  })
}
