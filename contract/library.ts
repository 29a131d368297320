import type { Figures, Flag } from '../core/audio/analysis/figures'
import type { Nearness } from '../core/audio/analysis/nearness'
import type { Hit } from '../core/audio/analysis/onsets'
import type { FoundBy } from '../core/search/catalogue/find'
import type { JobView } from './jobs'
import type { EmbeddedData } from '../core/audio/decoded'
import type { KindGuess } from '../core/search/kindFromName'
import type { NameFacts } from '../core/search/naming'
import type { TempoGuess } from '../core/search/tempo'
import type { Listed } from './sources'

/** A sound as a row of the list. */
export interface SoundRow {
  readonly id: number
  readonly hash: string
  readonly name: string
  readonly folder: string
  /** The numbers of its sources with the folders below them: `3/drums/kicks`. */
  readonly folders: readonly string[]
  readonly kind: string | null
  readonly kindConfidence: number | null
  readonly favourite: boolean
  readonly setAside: boolean
  readonly tags: readonly string[]
  readonly container: string
  readonly sampleRate: number
  readonly bitDepth: number
  readonly channels: number
  readonly frames: number
  readonly lengthSeconds: number
  readonly peak: number
  readonly effectiveSeconds: number | null
  readonly hitLufs: number | null
  readonly truePeakDb: number | null
  readonly brightness: number | null
  readonly pitchNote: number | null
  /** Stated by its tags or its name, in beats a minute. */
  readonly tempo: number | null
  /** The note that its file states as its root, 0 to 127. */
  readonly statedNote: number | null
  readonly flags: readonly Flag[]
  /** Each hit in it, in seconds. */
  readonly hits: readonly Hit[]
  readonly fileCount: number
  readonly warnings: number
  /** When it came to the library, as an ISO date. */
  readonly addedAt: string
  /** Base64 of the waveform overview. */
  readonly overview: string
}

/** A sound as a search found it. */
export interface FoundRow extends SoundRow {
  readonly foundBy: FoundBy
  readonly nearness: Nearness | null
}

export interface SearchPage {
  readonly total: number
  readonly counts: Readonly<Record<FoundBy, number>>
  readonly rows: readonly FoundRow[]
}

export interface DuplicateFile {
  readonly path: string
  readonly size: number
}

/** Files that hold the very same audio. */
export interface DuplicateGroup {
  readonly hash: string
  readonly name: string
  /** How many they are, of which the first are named. */
  readonly total: number
  readonly files: readonly DuplicateFile[]
  /** What could be freed: all of them but the largest. */
  readonly wastedBytes: number
}

export interface Duplicates {
  readonly groups: number
  readonly files: number
  readonly wastedBytes: number
  /** The most wasteful first. */
  readonly shown: readonly DuplicateGroup[]
}

/** Sounds that are one recording. */
export interface NearGroup {
  readonly id: number
  /** How many they are, of which the first are named, by their folders and names. */
  readonly total: number
  readonly sounds: readonly SoundRow[]
  /** How well those of its pairs fit that fit least and best: a correlation, 0 to 1. */
  readonly least: number
  readonly best: number
}

export interface NearGroups {
  /** Groups that are not strokes of one family, and those that are. */
  readonly others: number
  readonly strokes: number
  /** The surest first. */
  readonly shown: readonly NearGroup[]
}

/** Upper ends of the lengths that sounds are counted by, in seconds; what is longer comes last. */
export const LENGTHS = [0.25, 0.5, 1, 2, 5] as const

/** How many sounds of each kind there are by how long they sound. */
export interface KindByLength {
  readonly kind: string
  /** One a length of `LENGTHS`, and one for what is longer. */
  readonly counts: readonly number[]
}

/** An edit as it was done, undone or redone. */
export interface MarkEdit {
  readonly title: string
  readonly count: number
}

/** What came of setting something by hand: it is done, a job does it, or there was nothing to do, and why. */
export type MarkAnswer = { readonly edit: MarkEdit } | { readonly job: JobView } | { readonly nothing: string }

/** Why a sound may take the place of another: its file holds it now, it is the same recording, or it bears the same name. */
export type StandInReason = 'file' | 'recording' | 'name'

export interface StandIn {
  readonly reason: StandInReason
  /** True where it hardly is another sound than the one that was meant. */
  readonly isSure: boolean
  readonly row: SoundRow
}

export interface StandIns {
  /** What a search for what is like it calls the sound that is wanted; null where it is not known, or silent. */
  readonly comparableId: number | null
  /** The folder that it was last seen in, with its source. */
  readonly folder: string | null
  /** The surest first. */
  readonly standIns: readonly StandIn[]
}

/** All that is known of one sound, with every file that holds it. */
export interface SoundDetail {
  readonly id: number
  readonly hash: string
  readonly name: string
  readonly container: string
  readonly codec: string
  readonly kind: string | null
  readonly kindConfidence: number | null
  readonly kindEvidence: string | null
  /** What each witness says that it is. */
  readonly kindBy: { readonly file: KindGuess | null, readonly name: KindGuess | null, readonly audio: KindGuess | null }
  readonly tags: readonly string[]
  readonly hand: { readonly kind: string | null, readonly tags: readonly string[], readonly favourite: boolean, readonly note: string, readonly aside: boolean }
  /** What the first file's name says beside the kind, and how many strokes its family has. */
  readonly named: NameFacts | null
  readonly strokes: number
  readonly near: Listed<{ readonly name: string, readonly folder: string, readonly correlation: number, readonly levelDb: number }>
  readonly usedIn: { readonly kits: readonly string[], readonly presets: readonly string[] }
  readonly embedded: EmbeddedData
  readonly warnings: readonly string[]
  /** What is stated of its tempo, and where. */
  readonly tempo: TempoGuess | null
  readonly figures: Figures | null
  readonly lengthSeconds: number
  readonly sampleRate: number
  readonly bitDepth: number
  readonly channels: number
  readonly frames: number
  readonly places: { readonly total: number, readonly shown: readonly { readonly sourceId: number, readonly root: string, readonly path: string, readonly size: number, readonly missing: boolean }[] }
}
