import { SOUNDS_URL } from './soundsUrl'
import type { Figures, Flag } from '../core/audio/analysis/figures'
import type { Nearness } from '../core/audio/analysis/nearness'
import type { Hit } from '../core/audio/analysis/onsets'
import type { FigureValues } from '../core/figures/register'
import type { FoundBy, Hidden } from '../core/search/catalogue/find'
import type { JobView } from './jobs'
import type { EmbeddedData } from '../core/audio/decoded'
import type { KindGuess } from '../core/search/kindFromName'
import type { NameFacts } from '../core/search/naming'
import type { TempoGuess } from '../core/search/tempo'
import { stretchSchema, type Listed } from './sources'
import { z } from 'zod'
import type { Facets } from '../core/search/catalogue/facets'
import type { FolderCount } from '../core/search/catalogue/folders'
import { MOST_LAYERS, MOST_PADS, soundIdSchema, soundRefSchema } from '../core/kit/document'
import type { SoundTimes } from '../core/kit/trims'
import { get, post } from './endpoint'
import { flagSchema, idSchema, placeSchema } from './ids'
import { searchSchema } from './searches'

/** A sound as a row of the list. */
export interface SoundRow extends FigureValues {
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
  readonly frames: number
  readonly peak: number
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
  /** Paths of those that are the same to the byte, in groups. */
  readonly identical: readonly (readonly string[])[]
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

/** Sounds of a kit that are asked for at once. */
const MOST_OF_KIT = MOST_PADS * MOST_LAYERS
const MOST_LOOKED_FOR = 100
const MOST_SOUNDS = 2048
const windowSchema = searchSchema.extend({ offset: placeSchema.default(0), limit: z.coerce.number<number | string>().int().min(0).max(500).default(100) })
const nearSchema = z.object({
  limit: z.coerce.number<number | string>().int().min(1).max(100).default(50),
  offset: placeSchema.default(0),
  /** Whether groups are shown that are nothing but strokes of one family. */
  strokes: flagSchema.default(false),
})
const missingSchema = z.union([
  z.object({ sounds: z.array(soundIdSchema).max(MOST_LOOKED_FOR), onDisk: z.literal(true) }),
  z.object({ sounds: z.array(soundIdSchema).max(MOST_OF_KIT) }),
])
const stretch = z.int().min(0)

export const soundRoutes = {
  list: get('/api/sounds', 'A window of what a search finds.', { query: windowSchema }).answers<SearchPage>(),
  facets: get('/api/sounds/facets', 'Counts of what could be chosen beside a search, and of what it hides.', { query: searchSchema }).answers<{ readonly facets: Facets, readonly hidden: Hidden }>(),
  folders: get('/api/sounds/folders', 'Folders directly below a place such as 3/Kicks, or the sources, with how many sounds of a search each holds.', { query: searchSchema.extend({ under: z.string().max(4200).optional() }) }).answers<readonly FolderCount[]>(),
  place: get('/api/sounds/place', 'Where in a result a sound stands; -1 where it is not in it.', { query: searchSchema.extend({ id: idSchema }) }).answers<{ readonly index: number }>(),
  ids: post('/api/sounds/ids', 'The ids of stretches of a result.', { body: z.object({ search: searchSchema, stretches: z.array(z.tuple([stretch, stretch]).readonly()).max(20_000).readonly() }) }).answers<{ readonly ids: readonly number[] }>(),
  read: get('/api/sounds/[hash]', 'All that is known of one sound.', { params: { hash: soundIdSchema } }).answers<SoundDetail>(),
  times: post('/api/sounds/figures', 'When several sounds begin, end and are hit, and how loud they are; those that the library does not know are left out.', { body: z.object({ sounds: z.array(soundIdSchema).max(MOST_SOUNDS).readonly() }) }).answers<Readonly<Record<string, SoundTimes>>>(),
  drop: post('/api/sounds/drop', 'Takes a file so that sounds can be found that are like it; answers with what a search calls it by.', { body: 'bytes' }).answers<{ readonly like: string }>(),
  audio: get(`${SOUNDS_URL}/[hash]`, 'The file of a sound, as it is; under its own name where it is wanted as a file.', { params: { hash: soundIdSchema }, query: z.object({ as: z.literal('file').optional() }) }).sends(),
  audioOfSeveral: post(SOUNDS_URL, 'The files of several sounds, one after the other.', { body: z.object({ hashes: z.array(soundIdSchema).min(1).max(64) }) }).sends(),
}

export const libraryRoutes = {
  compare: post('/api/library/compare', 'Finds near-duplicates.').answers<JobView<'compare'>>(),
  duplicates: get('/api/library/duplicates', 'Files that hold the very same audio, the most wasteful first.', { query: stretchSchema }).answers<Duplicates>(),
  near: get('/api/library/near', 'Sounds that are one recording, the surest first.', { query: nearSchema }).answers<NearGroups>(),
  kinds: get('/api/library/kinds', 'How many sounds of each kind there are by length.', { query: z.object({ source: idSchema.optional() }) }).answers<readonly KindByLength[]>(),
  tags: get('/api/library/tags', 'Tags in use.').answers<readonly { readonly tag: string, readonly count: number }[]>(),
  missing: post('/api/library/missing', 'Which of some sounds have no file, and in what containers the others are: as they were last looked through, or as the disk has them now.', { body: missingSchema }).answers<{ readonly missing: readonly string[], readonly containers: Readonly<Record<string, string>> }>(),
  standIns: post('/api/library/stand-ins', 'What may take the place of sounds whose files are gone.', { body: z.object({ sounds: z.array(soundRefSchema.pick({ id: true, name: true, frames: true, sampleRate: true })).max(MOST_SOUNDS).readonly() }) }).answers<Readonly<Record<string, StandIns>>>(),
}
