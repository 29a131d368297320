import { sql } from 'drizzle-orm'
import {
  bigint, boolean, customType, doublePrecision, index, integer, jsonb, pgTable, primaryKey, real, serial, text, timestamp, uniqueIndex, uuid,
} from 'drizzle-orm/pg-core'
import type { Figures, Flag } from '../../core/audio/analysis/figures'
import type { EmbeddedData } from '../../core/audio/decoded'
import type { PresetType } from '../../core/formats/package/kitFile'
import type { Pattern } from '../../core/groove/document'
import type { Kit } from '../../core/kit/document'
import type { Mark } from './mark'
import { figureColumns } from './figureColumns'
import type { StoredRequest } from './storedRequest'
import type { JobProgress, JobState } from '../../contract/jobs'
import type { SavedSearch } from '../../contract/searches'
import type { PatternSummary } from '../../contract/patterns'

const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' })
const plainText = customType<{ data: string }>({ dataType: () => 'text COLLATE "C"' })

const createdAt = () => timestamp('created_at', { withTimezone: true }).notNull().defaultNow()

/** A folder that was brought in. */
export const sources = pgTable('sources', {
  id: serial('id').primaryKey(),
  name: text('name').notNull(),
  path: text('path').notNull(),
  /** True when the files were dropped on the page and lie in the data folder. */
  uploaded: boolean('uploaded').notNull().default(false),
  createdAt: createdAt(),
  lastScanAt: timestamp('last_scan_at', { withTimezone: true }),
  otherFiles: integer('other_files').notNull().default(0),
  /** How many of those by what their names end with, the commonest ones. */
  otherEndings: jsonb('other_endings').$type<Readonly<Record<string, number>>>().notNull().default({}),
  /** The archive that it was unpacked from, where that lies on this machine; it is unpacked once. */
  archive: text('archive'),
  /** Entries of that archive that were damaged, with the reason: they are listed as unreadable. */
  leftOut: jsonb('left_out').$type<readonly { readonly path: string, readonly reason: string }[]>().notNull().default([]),
  /** A paused source is neither watched nor measured anew. */
  paused: boolean('paused').notNull().default(false),
}, table => [uniqueIndex('sources_path').on(table.path)])

/** One piece of audio, whatever its files are called. What is searched lies here, drawn together from its files. */
export const sounds = pgTable('sounds', {
  id: serial('id').primaryKey(),
  hash: text('hash').notNull(),
  /** Its identity to earlier versions, which read its file otherwise: kits and presets of then call it by that. */
  formerHash: text('former_hash'),
  container: text('container').notNull(),
  codec: text('codec').notNull(),
  frames: bigint('frames', { mode: 'number' }).notNull(),
  peak: real('peak').notNull(),
  overview: bytea('overview').notNull(),
  embedded: jsonb('embedded').$type<EmbeddedData>().notNull(),
  warnings: jsonb('warnings').$type<string[]>().notNull(),
  /** What was measured, null until it was; and by which version of the methods. */
  figures: jsonb('figures').$type<Figures>(),
  figuresVersion: integer('figures_version').notNull().default(0),
  /** Those that lists show, sort and search by. */
  ...figureColumns(),
  flags: text('flags').array().$type<Flag[]>().notNull().default(sql`'{}'::text[]`),
  /** The vector that sounds are compared by; null for silence. */
  features: bytea('features'),
  /** What the audio alone says of the kind. */
  audioKind: text('audio_kind'),
  audioConfidence: real('audio_confidence'),
  audioEvidence: text('audio_evidence'),
  /** Set by a person: no scan touches these. */
  handKind: text('hand_kind'),
  handTags: text('hand_tags').array().notNull().default(sql`'{}'::text[]`),
  favourite: boolean('favourite').notNull().default(false),
  handNote: text('hand_note').notNull().default(''),
  /** Left out of searches that do not ask for it. */
  setAside: boolean('set_aside').notNull().default(false),
  addedAt: timestamp('added_at', { withTimezone: true }).notNull().defaultNow(),
  /** Drawn together from what was set by hand, from rules, and from the witnesses. */
  kind: text('kind'),
  kindConfidence: real('kind_confidence'),
  kindEvidence: text('kind_evidence'),
  tags: text('tags').array().notNull().default(sql`'{}'::text[]`),
  name: text('name').notNull().default(''),
  folder: text('folder').notNull().default(''),
  sortKey: plainText('sort_key').notNull().default(''),
  /** Words of its paths, tags and note, in their order: see `searchText`. */
  words: text('words').notNull().default(''),
  /** Where its files lie: the number of the source, and the folder below it. */
  folders: text('folders').array().notNull().default(sql`'{}'::text[]`),
  sourceIds: integer('source_ids').array().notNull().default(sql`'{}'::integer[]`),
  fileCount: integer('file_count').notNull().default(0),
  /** The sound that its file holds now, where it was edited in place: see `handOn`. */
  becameId: integer('became_id'),
  /** From one sequence, anew at every change (of a row that is there, by a trigger): whoever keeps a copy asks for what is above the highest it has seen. */
  revision: bigint('revision', { mode: 'number' }).notNull().default(sql`nextval('sounds_revisions')`),
}, table => [
  uniqueIndex('sounds_hash').on(table.hash),
  index('sounds_former_hash').on(table.formerHash).where(sql`former_hash IS NOT NULL`),
  index('sounds_revision').on(table.revision),
  // The plain list, and how many it has, while no catalogue is there yet.
  index('sounds_listed').on(table.sortKey, table.id).where(sql`file_count > 0 AND NOT set_aside`),
  index('sounds_figures_version').on(table.figuresVersion),
])

/** A path where a sound was seen, or where something could not be read. */
export const files = pgTable('files', {
  id: serial('id').primaryKey(),
  sourceId: integer('source_id').notNull().references(() => sources.id, { onDelete: 'cascade' }),
  /** Below the source's folder, with `/` between its parts. */
  path: text('path').notNull(),
  size: bigint('size', { mode: 'number' }).notNull(),
  modifiedMs: doublePrecision('modified_ms').notNull(),
  soundId: integer('sound_id').references(() => sounds.id),
  /** What lay here before, until the scan has seen whether it hands on what was set of it: see `handOn`. */
  formerSoundId: integer('former_sound_id').references(() => sounds.id),
  /** Why it could not be read. */
  error: text('error'),
  /** What read it, or could not: see `READERS_VERSION`. */
  readersVersion: integer('readers_version').notNull().default(0),
  missing: boolean('missing').notNull().default(false),
  /** What its name and folders say. */
  kind: text('kind'),
  kindConfidence: real('kind_confidence'),
  kindEvidence: text('kind_evidence'),
  /** What its own tags say. */
  tagKind: text('tag_kind'),
  tagConfidence: real('tag_confidence'),
  tagEvidence: text('tag_evidence'),
  /** Its name without velocity and take: files of one source that share it are strokes of one instrument. */
  family: text('family'),
}, table => [
  uniqueIndex('files_source_path').on(table.sourceId, table.path),
  index('files_sound').on(table.soundId),
  index('files_family').on(table.sourceId, table.family).where(sql`family is not null`),
  index('files_former').on(table.sourceId).where(sql`former_sound_id is not null`),
  index('files_unreadable').on(table.sourceId).where(sql`error is not null`),
])

/** What a person said of everything in a folder; it holds for later scans as well. */
export const folderRules = pgTable('folder_rules', {
  id: serial('id').primaryKey(),
  sourceId: integer('source_id').notNull().references(() => sources.id, { onDelete: 'cascade' }),
  /** Below the source's folder; empty for all of it. */
  folder: text('folder').notNull(),
  kind: text('kind'),
  tags: text('tags').array().notNull().default(sql`'{}'::text[]`),
}, table => [uniqueIndex('folder_rules_place').on(table.sourceId, table.folder)])

/** Two sounds that are one recording, though not to the sample. Found by a job, on demand. */
export const nearDuplicates = pgTable('near_duplicates', {
  firstId: integer('first_id').notNull().references(() => sounds.id, { onDelete: 'cascade' }),
  secondId: integer('second_id').notNull().references(() => sounds.id, { onDelete: 'cascade' }),
  correlation: real('correlation').notNull(),
  /** Level of the second over the first. */
  levelDb: real('level_db').notNull(),
  /** The lowest id of all that hang together with these two, through any chain of pairs. */
  groupId: integer('group_id').notNull(),
  /** True where both are strokes of one family by their names: layers made of one recording. */
  strokes: boolean('strokes').notNull().default(false),
}, table => [primaryKey({ columns: [table.firstId, table.secondId] }), index('near_duplicates_second').on(table.secondId), index('near_duplicates_group').on(table.groupId)])

/** Steps of what was set by hand, so that they can be taken back. */
export const handEdits = pgTable('hand_edits', {
  id: serial('id').primaryKey(),
  /** Edits of one step belong together: an edit of many sounds is done in parts. */
  step: integer('step').notNull().default(0),
  title: text('title').notNull(),
  /** How many sounds it changed. */
  count: integer('count').notNull().default(0),
  /** What was set before, a mark a sound. */
  before: jsonb('before').$type<Mark[]>().notNull(),
  after: jsonb('after').$type<Mark[]>().notNull(),
  undone: boolean('undone').notNull().default(false),
  createdAt: createdAt(),
}, table => [index('hand_edits_step').on(table.step)])

/** Shortlists, by name. One of them is in hand. */
export const trays = pgTable('trays', {
  id: serial('id').primaryKey(),
  name: text('name').notNull(),
  createdAt: createdAt(),
})

/** What lies on a tray, in its order. */
export const traySounds = pgTable('tray_sounds', {
  trayId: integer('tray_id').notNull().references(() => trays.id, { onDelete: 'cascade' }),
  soundHash: text('sound_hash').notNull(),
  position: integer('position').notNull(),
  note: text('note').notNull().default(''),
}, table => [primaryKey({ columns: [table.trayId, table.soundHash] })])

/** Searches that are kept under a name. */
export const savedSearches = pgTable('saved_searches', {
  id: serial('id').primaryKey(),
  name: text('name').notNull(),
  search: jsonb('search').$type<SavedSearch>().notNull(),
  createdAt: createdAt(),
})

/** Folders that a person marked as favourites. */
export const favouriteFolders = pgTable('favourite_folders', {
  sourceId: integer('source_id').notNull().references(() => sources.id, { onDelete: 'cascade' }),
  /** Below the source; empty for all of it. */
  path: text('path').notNull(),
  createdAt: createdAt(),
}, table => [primaryKey({ columns: [table.sourceId, table.path] })])

/** Kits at work. Every edit is saved as a new revision of its row. */
export const kits = pgTable('kits', {
  id: uuid('id').primaryKey(),
  kit: jsonb('kit').$type<Kit>().notNull(),
  revision: integer('revision').notNull(),
  /** The preset that it was opened from or stored as. */
  presetId: text('preset_id'),
  presetRevision: integer('preset_revision'),
  /** The pattern that was last played on it. */
  patternId: text('pattern_id'),
  createdAt: createdAt(),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
})

/** The patterns: those that come with the application, and the person's own. */
export const patterns = pgTable('patterns', {
  id: text('id').primaryKey(),
  pattern: jsonb('pattern').$type<Pattern>().notNull(),
  /** What a list shows of it, drawn out of the document. */
  summary: jsonb('summary').$type<PatternSummary>().notNull(),
  folder: text('folder').notNull().default(''),
  tags: text('tags').array().notNull().default(sql`'{}'::text[]`),
  favourite: boolean('favourite').notNull().default(false),
  /** It came with the application and is not changed: an edit makes a copy. */
  isShipped: boolean('is_shipped').notNull().default(false),
  revision: integer('revision').notNull(),
  createdAt: createdAt(),
  updatedAt: timestamp('updated_at', { withTimezone: true }).notNull().defaultNow(),
})

/** Earlier states of patterns, kept on purpose or before a long pause. */
export const patternRevisions = pgTable('pattern_revisions', {
  patternId: text('pattern_id').notNull().references(() => patterns.id, { onDelete: 'cascade' }),
  number: integer('number').notNull(),
  pattern: jsonb('pattern').$type<Pattern>().notNull(),
  savedAt: timestamp('saved_at', { withTimezone: true }).notNull().defaultNow(),
}, table => [primaryKey({ columns: [table.patternId, table.number] })])

/** An index of the vault on disk; the vault itself is the truth. */
export const presets = pgTable('presets', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  folder: text('folder').notNull(),
  latest: integer('latest').notNull(),
  /** A kit, one pad, or a blueprint. */
  type: text('type').$type<PresetType>().notNull().default('kit'),
  /** The pattern that was stored with its latest revision. */
  patternId: text('pattern_id'),
})

export const presetRevisions = pgTable('preset_revisions', {
  presetId: text('preset_id').notNull().references(() => presets.id, { onDelete: 'cascade' }),
  number: integer('number').notNull(),
  storedAt: timestamp('stored_at', { withTimezone: true }).notNull(),
  pads: integer('pads').notNull(),
  samples: integer('samples').notNull(),
  bytes: bigint('bytes', { mode: 'number' }).notNull(),
  /** Why it can't be opened, when it can't. */
  problem: text('problem'),
}, table => [primaryKey({ columns: [table.presetId, table.number] })])

/** Where the vault holds a copy of a sound. */
export const presetSounds = pgTable('preset_sounds', {
  presetId: text('preset_id').notNull(),
  number: integer('number').notNull(),
  soundHash: text('sound_hash').notNull(),
  /** Below the vault's folder. */
  path: text('path').notNull(),
  /** Of the file when it was last decoded and found to be the sound; null: never yet. */
  size: bigint('size', { mode: 'number' }),
  modifiedMs: doublePrecision('modified_ms'),
}, table => [
  primaryKey({ columns: [table.presetId, table.number, table.soundHash] }),
  index('preset_sounds_hash').on(table.soundHash),
])

/** Long work. */
export const jobs = pgTable('jobs', {
  id: uuid('id').primaryKey(),
  request: jsonb('request').$type<StoredRequest>().notNull(),
  state: text('state').$type<JobState>().notNull(),
  progress: jsonb('progress').$type<JobProgress>(),
  result: jsonb('result').$type<unknown>(),
  error: text('error'),
  createdAt: createdAt(),
  finishedAt: timestamp('finished_at', { withTimezone: true }),
}, table => [index('jobs_state').on(table.state)])
