import { z } from 'zod'
import type { Flag } from '../core/audio/analysis/figures'
import { idSchema, pathSchema, placeSchema } from './ids'
import { NAME_LENGTHS } from '../core/nameLengths'
import { get, patch, post, put, remove } from './endpoint'
import type { JobView } from './jobs'
import type { SoundRow } from './library'
import { kindSchema, tagSchema } from './marks'

export interface SourceView {
  readonly id: number
  readonly name: string
  readonly path: string
  readonly uploaded: boolean
  readonly lastScanAt: string | null
  readonly files: number
  readonly bytes: number
  readonly unreadable: number
  readonly missing: number
  readonly otherFiles: number
  readonly otherEndings: Readonly<Record<string, number>>
  /** Neither watched nor measured anew. */
  readonly paused: boolean
  /** Names of sources that hold the same folders, wholly or in part. */
  readonly overlaps: readonly string[]
}

export interface BrowsedFolder {
  readonly path: string
  /** The folder above, where it may be read. */
  readonly parent: string | null
  readonly folders: readonly { readonly name: string, readonly path: string }[]
  /** Audio files directly in this folder; the first of them by name. */
  readonly audioFiles: number
  readonly files: readonly { readonly name: string, readonly path: string }[]
  readonly roots: readonly string[]
}

export interface RuleView {
  readonly id: number
  readonly folder: string
  readonly kind: string | null
  readonly tags: readonly string[]
  /** Files that lie in its folder now. */
  readonly files: number
}

/** What came of reading a list. */
export interface ListRead {
  readonly rows: number
  readonly changed: number
  /** Paths that the source does not hold: how many, and the first of them. */
  readonly unknownPaths: number
  readonly firstUnknown: readonly string[]
  /** Kinds that are not in the tree, as written. */
  readonly unknownKinds: readonly string[]
}

export const MOST_AT_ONCE = 500

/** Which stretch of a list is asked for. */
export const stretchSchema = z.object({ limit: z.coerce.number<number | string>().int().min(1).max(MOST_AT_ONCE).default(200), offset: placeSchema.default(0) })

export type Stretch = z.infer<typeof stretchSchema>

/** A stretch of a list, and how long the list is. */
export interface Listed<T> {
  readonly total: number
  readonly shown: readonly T[]
}

/** Strokes of one instrument. */
export interface Family {
  readonly family: string
  readonly files: number
  /** The path of one of them, and the number of a sound among them. */
  readonly example: string
  readonly soundId: number
}

/** A file with something about it that is worth knowing before it is used. */
export interface FlaggedFile {
  readonly path: string
  readonly flags: readonly Flag[]
  readonly warnings: readonly string[]
}

/** Files with something about them; and of how many what is reported, those that are damaged among it. A loop is as it should be. */
export interface Flagged extends Listed<FlaggedFile> {
  readonly counts: Readonly<Partial<Record<Flag | 'damaged', number>>>
}

export interface MissingFile {
  readonly path: string
}

export interface UnreadableFile {
  readonly path: string
  readonly reason: string
}

/** What taking the demo away has removed. */
export interface DemoRemoved {
  readonly sources: number
  readonly presets: number
}

/** "Everything in this folder is ...": a kind, tags, or both. */
export const ruleSchema = z.object({
  folder: z.string().max(4096).transform(folder => folder.replace(/^\/+|\/+$/g, '')),
  kind: kindSchema.nullable().default(null),
  tags: z.array(tagSchema).max(50).default([]),
}).refine(rule => rule.kind !== null || rule.tags.length > 0, 'A rule gives a kind or tags.')
export type Rule = z.infer<typeof ruleSchema>

/** What changed of a source. */
export interface SourceState {
  readonly id: number
  readonly name: string
  readonly path: string
  readonly paused: boolean
}

const sourcePatchSchema = z.object({
  name: z.string().trim().min(1).max(NAME_LENGTHS.source).optional(),
  path: pathSchema.optional(),
  paused: z.boolean().optional(),
}).refine(patch => Object.values(patch).some(value => value !== undefined), 'Nothing to change was given.')

const params = { id: idSchema }
const list = { params, query: stretchSchema }

export const sourceRoutes = {
  list: get('/api/sources', 'Every source.').answers<readonly SourceView[]>(),
  add: post('/api/sources', 'Brings in a folder or an archive that lies on this computer.', { body: z.object({ path: pathSchema }) }).answers<JobView<'scan' | 'unpack'>>(),
  change: patch('/api/sources/[id]', 'Renames, relocates, pauses or resumes a source; the work that this leads to goes on as jobs.', { params, body: sourcePatchSchema }).answers<SourceState>(),
  remove: remove('/api/sources/[id]', 'Removes a source; its files stay where they are.', { params, query: z.object({ forget: z.enum(['yes', 'no']).default('no') }) }).answers<{ readonly removed: boolean }>(),
  scan: post('/api/sources/[id]/scan', 'Looks through a source.', { params }).answers<JobView<'scan'>>(),
  sounds: get('/api/sources/[id]/sounds', 'Sounds of a source.', list).answers<Listed<SoundRow>>(),
  families: get('/api/sources/[id]/families', 'Families of strokes in a source.', list).answers<Listed<Family>>(),
  flagged: get('/api/sources/[id]/flagged', 'Files with something about them.', list).answers<Flagged>(),
  missing: get('/api/sources/[id]/missing', 'Files that are not where they were.', list).answers<Listed<MissingFile>>(),
  forgetMissing: remove('/api/sources/[id]/missing', 'Forgets files that are not where they were.', { params }).answers<{ readonly forgotten: number }>(),
  missingAsText: get('/api/sources/[id]/missing.txt', 'The list of what is missing, as text.', { params }).sends(),
  unreadable: get('/api/sources/[id]/unreadable', 'Files that could not be read, and why.', list).answers<Listed<UnreadableFile>>(),
  unreadableAsText: get('/api/sources/[id]/unreadable.txt', 'The list of what could not be read, as text.', { params }).sends(),
  rules: get('/api/sources/[id]/rules', 'Rules of a source, and the folders that they could be for.', { params }).answers<{ readonly rules: readonly RuleView[], readonly folders: readonly { readonly folder: string, readonly files: number }[] }>(),
  setRule: post('/api/sources/[id]/rules', 'Lays down a rule for a folder; one that is there already is replaced.', { params, body: ruleSchema }).answers<JobView<'redraw'>>(),
  removeRule: remove('/api/sources/[id]/rules/[rule]', 'Removes a rule.', { params: { ...params, rule: idSchema } }).answers<JobView<'redraw'>>(),
  asCsv: get('/api/sources/[id]/list', 'The list of a source, as CSV.', { params }).sends(),
  readCsv: post('/api/sources/[id]/list', 'Reads kinds, tags and notes from a list.', { params, body: z.object({ text: z.string() }) }).answers<ListRead>(),
}

const uploadName = z.string().trim().min(1).max(200)
const uploadParams = { id: z.uuid() }

/** How files come in from the page: begun, sent one by one, and finished. */
export const uploadRoutes = {
  begin: post('/api/uploads', 'Begins an upload.').answers<{ readonly id: string }>(),
  file: put('/api/uploads/[id]/file', 'Takes one file of an upload.', { params: uploadParams, query: z.object({ path: z.string().min(1).max(1024) }), body: 'bytes' }).answers<{ readonly received: string }>(),
  finish: post('/api/uploads/[id]/finish', 'Ends an upload: its files become a source, or are the one that has the same already.', { params: uploadParams, body: z.object({ name: uploadName }) }).answers<{ readonly sourceId: number, readonly job: JobView<'scan'> }>(),
  abandon: remove('/api/uploads/[id]', 'Gives an upload up.', { params: uploadParams }).answers<{ readonly abandoned: boolean }>(),
  archive: post('/api/archives', 'Takes in a .zip of samples, unpacks it and brings it in.', { query: z.object({ name: uploadName }), body: 'bytes' }).answers<JobView<'unpack'>>(),
}

/** The folders of this computer. */
export const folderRoutes = {
  browse: get('/api/browse', 'What a folder of this computer holds.', { query: z.object({ path: pathSchema.optional() }) }).answers<BrowsedFolder>(),
  make: post('/api/browse', 'Makes a folder to write into.', { body: z.object({ path: pathSchema, name: uploadName }) }).answers<BrowsedFolder>(),
  audio: get('/api/browse-audio', 'An audio file that is not in the library yet.', { query: z.object({ path: pathSchema }) }).sends(),
}

export const demoRoutes = {
  state: get('/api/demo', 'How many sources of the demo there are.').answers<{ readonly sources: number }>(),
  add: post('/api/demo', 'Makes the demo: its sounds, its sources and its presets.').answers<JobView<'demo'>>(),
  remove: remove('/api/demo', 'Removes the sources, sounds and presets of the demo.').answers<DemoRemoved>(),
}
