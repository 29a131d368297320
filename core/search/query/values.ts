import { parseNote, type MiddleC } from '../../audio/notes'
import type { Flag } from '../../audio/analysis/figures'
import { kindInText } from '../kindFromName'
import { isKind, KINDS } from '../kinds'
import { fold } from '../tokens'
import { FLAG_NAMES, STATES, type Field } from './fields'
import { unquoted } from './lex'
import type { NumberCondition } from '../../figures/register'
import type { Query, Range, SoundCondition } from './tree'

/** A value that can't be understood says why. */
export interface Misread {
  readonly problem: string
}

type Read<T> = T | Misread

export function isMisread(value: object): value is Misread {
  return 'problem' in value
}

const UNITS: Readonly<Record<string, number>> = { '': 1, 's': 1, 'sec': 1, 'ms': 0.001, 'hz': 1, 'khz': 1000, 'db': 1, 'dbtp': 1, 'lufs': 1, 'bpm': 1, 'bit': 1, 'bits': 1 }
const MOST_DAYS = 36_500
const DAYS: Readonly<Record<string, number>> = { d: 1, w: 7, m: 30, y: 365 }

/** One value of a condition that takes no range. */
export function readValue(field: Field, value: string): Read<Query> {
  if (value.trim() === '') return { problem: `Something must follow "${field.name}=", as in ${field.example}.` }
  switch (field.takes) {
    case 'kind':
      return readKind(value)
    case 'state':
      return readState(value)
    case 'since':
      return readSince(value)
    case 'sound':
      return readSound(field.name as SoundCondition, value)
    default:
      return readText(field.name, value)
  }
}

function readText(name: string, value: string): Query {
  const text = fold(value.normalize('NFC')).trim()
  switch (name) {
    case 'tag':
      return { type: 'tag', tag: text }
    case 'source':
      return { type: 'source', name: text }
    case 'pack':
      return { type: 'pack', name: text }
    default:
      return { type: 'folder', folders: text.split('/').map(folder => folder.trim()).filter(Boolean) }
  }
}

function readKind(value: string): Read<Query> {
  const text = fold(value).trim()
  if (text === 'unknown' || text === 'none') return { type: 'kind', path: 'none' }
  if (isKind(text)) return { type: 'kind', path: text }
  const path = KINDS.find(kind => fold(kind.label) === text)?.path ?? kindInText(text)?.path
  return path === undefined ? { problem: `"${value}" is no kind. Kinds are words such as kick, hat.closed or tom.low.` } : { type: 'kind', path }
}

function readState(value: string): Read<Query> {
  const text = fold(value).trim().replaceAll(' ', '-')
  const state = STATES.find(({ name }) => name === text)
  if (state) return { type: 'state', state: state.name }
  const flag = FLAG_NAMES.find((name): name is Flag => name === text)
  if (flag) return { type: 'flag', flag }
  return { problem: `"${value}" is nothing that a sound can be. It can be ${[...STATES.map(({ name }) => name), ...FLAG_NAMES].join(', ')}.` }
}

function readSince(value: string): Read<Query> {
  const text = value.trim().toLowerCase()
  if (text === 'today') return { type: 'since', daysAgo: 1 }
  const ago = /^(\d{1,5})([dwmy])$/.exec(text)
  if (ago) return { type: 'since', daysAgo: Math.min(MOST_DAYS, Number(ago[1]) * DAYS[ago[2]!]!) }
  const atMs = /^\d{4}-\d{2}-\d{2}$/.test(text) ? Date.parse(`${text}T00:00:00`) : Number.NaN
  return Number.isFinite(atMs) ? { type: 'since', atMs } : { problem: `"${value}" is no time. Write a date as 2026-11-24, or 7d, 2w, 3m, 1y for days, weeks, months and years back.` }
}

function readSound(type: SoundCondition, value: string): Read<Query> {
  const sound = value.trim()
  const isNumber = /^[1-9]\d{0,9}$/.test(sound)
  if (isNumber || (type === 'like' && /^drop-\d{1,9}$/.test(sound))) return { type, sound }
  return { problem: `"${value}" names no sound. Press the key for this on a sound, and its number is filled in.` }
}

/** A range after its sign: `<0.5`, `>=24`, `=C1..E1`. A single value after `=` is taken as exactly as it is written. */
export function readRange(field: Field, sign: string, value: string, middleC: MiddleC): Read<Query> {
  const text = unquoted(value).trim()
  const ends = text.split('..')
  if (text === '') return { problem: `A figure must follow "${field.name}${sign}", as in ${field.example}.` }
  if (ends.length > 2 || (ends.length === 2 && sign !== '=')) return { problem: `A range is written as ${field.name}=low..high.` }
  const numbers = ends.map(end => end.trim() === '' && ends.length === 2 ? undefined : readNumber(field, end, middleC))
  const wrong = numbers.findIndex(number => number !== undefined && Number.isNaN(number.value))
  if (wrong >= 0) return { problem: misreadNumber(field, ends[wrong]!) }
  const range = rangeOf(sign, numbers)
  if (range.low !== undefined && range.high !== undefined && range.low > range.high) return { problem: `The range ${text} ends below where it begins.` }
  return { type: 'number', field: field.name as NumberCondition, range }
}

function misreadNumber(field: Field, text: string): string {
  if (field.unit === 'note') return `"${text}" is no note. Write a name such as C#2, or a number from 0 to 127.`
  return `"${text}" is no figure${field.unit ? ` in ${field.unit}` : ''}: write it as in ${field.example}.`
}

interface ReadNumber {
  readonly value: number
  /** Half of what its last digit counts. */
  readonly slack: number
}

function readNumber({ unit: kept, words, thousandsBelow = -Infinity, isWhole }: Field, text: string, middleC: MiddleC): ReadNumber {
  const trimmed = text.trim().toLowerCase()
  if (kept === 'note') return { value: parseNote(trimmed, middleC) ?? Number.NaN, slack: 0.5 }
  if (words && Object.hasOwn(words, trimmed)) return { value: words[trimmed]!, slack: 0 }
  const match = /^([+-]?(?:\d{1,9}(?:\.(\d{0,6}))?|\.(\d{1,6})))\s*([a-z]*)$/.exec(trimmed)
  const unit = match ? UNITS[match[4]!] : undefined
  if (!match || unit === undefined) return { value: Number.NaN, slack: 0 }
  const factor = match[4] === '' && Number(match[1]) < thousandsBelow ? 1000 : unit
  const digits = (match[2] ?? match[3] ?? '').length
  return { value: Number(match[1]) * factor, slack: isWhole ? 0 : factor * 0.5 * 10 ** -digits }
}

function rangeOf(sign: string, [first, second]: readonly (ReadNumber | undefined)[]): Range {
  const { value, slack } = first ?? { value: 0, slack: 0 }
  switch (sign) {
    case '<':
      return { high: value, below: true }
    case '<=':
      return { high: value }
    case '>':
      return { low: value, above: true }
    case '>=':
      return { low: value }
    default:
      if (second === undefined && first) return { low: value - slack, high: value + slack }
      return { ...(first ? { low: value } : {}), ...(second ? { high: second.value } : {}) }
  }
}
