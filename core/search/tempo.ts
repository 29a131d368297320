import { counted } from '../wording'
import type { Flag } from '../audio/analysis/figures'
import type { KindGuess } from './kindFromName'
import { statedNumbers, statedTempo } from './naming'

/** A tempo in beats a minute, with what it rests on. */
export interface TempoGuess {
  readonly bpm: number
  readonly evidence: string
}

/** What is to be known of a sound to say what is stated of its tempo. */
export interface TempoWitnesses {
  /** Relative, with `/` between the parts. */
  readonly paths: readonly string[]
  readonly tagBpm: number | undefined
  readonly lengthSeconds: number
}

const SLOWEST_BPM = 40
const FASTEST_BPM = 240
const BEATS_A_BAR = 4
/** Part of its length by which a loop may miss whole bars: a sample or two by rounding, and some more by an encoder's padding. */
const OFF_BARS = 0.005
/** A stroke with a flam has several hits too. */
const SHORTEST_LOOP_SECONDS = 1.2
const LOOP_CONFIDENCE = 0.9

/**
 * What is stated of a sound's tempo: by its tags, else by "124 bpm" in its name; else, for loops, in its name and its
 * folders, the nearest first, by such a word or by a bare number with which it lasts whole bars (common practice: loops are
 * named by their tempo, with or without a word, and last whole bars of four). A number with which it does not is a number.
 *
 * @returns undefined where nothing is stated, or two numbers could be meant
 */
export function tempoOf(witnesses: TempoWitnesses, kind: string | null): TempoGuess | undefined {
  const { paths, tagBpm, lengthSeconds } = witnesses
  if (tagBpm !== undefined && isTempo(tagBpm)) return { bpm: tagBpm, evidence: 'its tags' }
  const named = inOwnName(paths)
  if (named || kind !== 'loop') return named
  return firstOf(paths, path => firstOf(placesOf(path), place => worded(place) ?? byLength(place, lengthSeconds)))
}

/**
 * What has several hits and a tempo that its own name states by a word, or many hits and one with which it lasts whole bars,
 * is a loop, whatever instrument its name tells and its first hit sounds like: `Bongo 124bpm` (common practice).
 */
export function loopByTempo(witnesses: TempoWitnesses, flags: readonly Flag[]): KindGuess | undefined {
  if (!flags.includes('several-hits') || witnesses.lengthSeconds < SHORTEST_LOOP_SECONDS) return undefined
  const tempo = inOwnName(witnesses.paths) ?? (flags.includes('loop') ? ofWholeBars(witnesses) : undefined)
  return tempo && { path: 'loop', confidence: LOOP_CONFIDENCE, evidence: `${tempo.evidence}, and it has several hits` }
}

function ofWholeBars(witnesses: TempoWitnesses): TempoGuess | undefined {
  const tempo = tempoOf(witnesses, 'loop')
  return tempo && wholeBars(tempo.bpm, witnesses.lengthSeconds) !== undefined ? tempo : undefined
}

function inOwnName(paths: readonly string[]): TempoGuess | undefined {
  return firstOf(paths, path => worded(placesOf(path)[0]))
}

/** A name, with what it is the name of. */
interface Place {
  readonly text: string
  readonly where: string
}

/** The name of a file, and those of its folders from the nearest on. */
function placesOf(path: string): [Place, ...Place[]] {
  const [name, ...folders] = path.split('/').reverse()
  return [{ text: (name ?? '').replace(/\.[^.]*$/, ''), where: 'its name' }, ...folders.map(folder => ({ text: folder, where: `the folder "${folder}"` }))]
}

function firstOf<T>(items: readonly T[], find: (item: T) => TempoGuess | undefined): TempoGuess | undefined {
  for (const item of items) {
    const found = find(item)
    if (found) return found
  }
  return undefined
}

function worded({ text, where }: Place): TempoGuess | undefined {
  const found = statedTempo(text)
  return found && isTempo(found.bpm) ? { bpm: found.bpm, evidence: `"${found.text}" in ${where}` } : undefined
}

function byLength({ text, where }: Place, lengthSeconds: number): TempoGuess | undefined {
  const fitting = statedNumbers(text).filter(number => isTempo(Number(number)) && wholeBars(Number(number), lengthSeconds) !== undefined)
  const [number] = fitting
  if (number === undefined || fitting.some(other => Number(other) !== Number(number))) return undefined
  return { bpm: Number(number), evidence: `"${number}" in ${where}, by which it lasts ${counted(wholeBars(Number(number), lengthSeconds)! * BEATS_A_BAR, 'beat')}` }
}

/** How many bars a length is at a tempo; undefined where it is none, or not whole ones. */
function wholeBars(bpm: number, lengthSeconds: number): number | undefined {
  const bars = lengthSeconds * bpm / 60 / BEATS_A_BAR
  const whole = Math.round(bars)
  return whole > 0 && Math.abs(bars - whole) <= OFF_BARS * whole ? whole : undefined
}

function isTempo(bpm: number): boolean {
  return bpm >= SLOWEST_BPM && bpm <= FASTEST_BPM
}
