import type { Flag } from '../audio/analysis/figures'
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
  readonly kind: string | null
  readonly flags: readonly Flag[]
}

const SLOWEST_BPM = 40
const FASTEST_BPM = 240
const BEATS_A_BAR = 4
/** Part of its length by which a loop may miss whole bars: a sample or two by rounding, and some more by an encoder's padding. */
const OFF_BARS = 0.005

/**
 * What is stated of a sound's tempo: by its tags, else by "124 bpm" in its name, else, for loops, by that in the name of a
 * folder, the nearest first, or by a bare number in its name with which it lasts whole bars (common practice: loops are
 * named by their tempo, with or without a word, and last whole bars of four). A number with which it does not is a number.
 *
 * @returns undefined where nothing is stated, or two numbers could be meant
 */
export function tempoOf({ paths, tagBpm, lengthSeconds, kind, flags }: TempoWitnesses): TempoGuess | undefined {
  if (tagBpm !== undefined && isTempo(tagBpm)) return { bpm: tagBpm, evidence: 'its tags' }
  const named = paths.map(path => path.split('/'))
  for (const parts of named) {
    const found = wordedIn(stemOf(parts.at(-1)!), 'its name')
    if (found) return found
  }
  if (kind !== 'loop' && !flags.includes('loop')) return undefined
  for (const parts of named) {
    const found = byLength(stemOf(parts.at(-1)!), lengthSeconds) ?? inFolders(parts.slice(0, -1))
    if (found) return found
  }
  return undefined
}

function inFolders(folders: readonly string[]): TempoGuess | undefined {
  for (const folder of folders.toReversed()) {
    const found = wordedIn(folder, `the folder "${folder}"`)
    if (found) return found
  }
  return undefined
}

function wordedIn(text: string, where: string): TempoGuess | undefined {
  const found = statedTempo(text)
  return found && isTempo(found.bpm) ? { bpm: found.bpm, evidence: `"${found.text}" in ${where}` } : undefined
}

function byLength(stem: string, lengthSeconds: number): TempoGuess | undefined {
  const fitting = statedNumbers(stem).filter(bpm => isTempo(bpm) && wholeBars(bpm, lengthSeconds) !== undefined)
  const [bpm] = fitting
  return bpm !== undefined && fitting.length === 1 ? { bpm, evidence: `"${bpm}" in its name, by which it lasts ${wholeBars(bpm, lengthSeconds)! * BEATS_A_BAR} beats` } : undefined
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

function stemOf(name: string): string {
  return name.replace(/\.[^.]*$/, '')
}
