import { rm, stat, writeFile } from 'node:fs/promises'
import { basename, extname, join } from 'node:path'
import { and, asc, eq, isNotNull, lt, ne, sql } from 'drizzle-orm'
import { union } from 'drizzle-orm/pg-core'
import { FIGURES_VERSION } from '../../core/audio/analysis/figures'
import { READERS_VERSION } from '../../core/audio/decode'
import { AUDIO_EXTENSIONS } from '../../core/audio/extensions'
import { EmporionError } from '../../core/errors'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import type { StudioConfig } from '../base/config'
import { forgetMarks } from './marks'
import { refreshSounds } from './record'
import { streamUserFile } from '../base/opener'
import { allowedPath, liesBelow } from '../base/roots'
import { KEPT_MARK, receiveArchive } from './uploads'
import type { SourceView } from '../../contract/sources'

const { files, sounds, sources } = schema

const PART = 500

type SourceRow = typeof sources.$inferSelect

/** Makes a folder a source; the one that is there already when the folder was brought in before. */
export async function addSource(db: Database, source: Pick<typeof sources.$inferInsert, 'name' | 'path' | 'uploaded' | 'archive' | 'leftOut'>): Promise<SourceRow> {
  const [added] = await db.insert(sources).values(source).onConflictDoNothing({ target: sources.path }).returning()
  if (added) return added
  const [known] = await db.select().from(sources).where(eq(sources.path, source.path))
  return known!
}

/**
 * Makes a folder on this machine a source.
 *
 * @throws EmporionError when it is not there, no folder, outside the roots, or inside the data folder
 */
export async function addFolder(db: Database, config: StudioConfig, path: string): Promise<SourceRow> {
  const real = await sourceFolder(config, path)
  return addSource(db, { name: basename(real) || real, path: real, uploaded: false })
}

/**
 * A .zip on this machine: its copy for unpacking, or the source that it was unpacked into before; undefined for anything
 * else.
 */
export async function addArchive(db: Database, config: StudioConfig, path: string): Promise<{ known: SourceRow } | { copy: string, name: string, origin: string } | undefined> {
  if (extname(path.trim()).toLowerCase() !== '.zip') return undefined
  const origin = await allowedPath(path.trim(), config.roots)
  if (!(await stat(origin)).isFile()) return undefined
  const [known] = await db.select().from(sources).where(eq(sources.archive, origin))
  if (known) return { known }
  return { copy: await receiveArchive(config.uploadsDir, (await streamUserFile(origin, config.roots)).stream), name: basename(origin, extname(origin)), origin }
}

async function sourceFolder(config: StudioConfig, path: string): Promise<string> {
  const real = await allowedPath(path.trim(), config.roots)
  if (!(await stat(real)).isDirectory()) {
    throw new EmporionError('invalid', { what: `${path} is a file, not a folder.`, next: 'Name the folder that it lies in.' })
  }
  if (liesBelow(config.vaultDir, real) || liesBelow(real, config.vaultDir)) {
    throw new EmporionError('invalid', { what: `${path} holds the vault or lies in it, and the vault cannot be a source of itself.`, next: 'Choose a folder of samples.' })
  }
  return real
}

/** What can be changed of a source. */
export interface SourcePatch {
  readonly name?: string
  /** Where it lies now: what is in it is known again by its audio. */
  readonly path?: string
  readonly paused?: boolean
}

/**
 * Renames, relocates, pauses or resumes a source.
 *
 * @returns the source as it is now
 * @throws EmporionError `not-found`; `exists` when another source lies at the new place; as `addFolder` for the place
 */
export async function updateSource(db: Database, config: StudioConfig, sourceId: number, patch: SourcePatch): Promise<SourceRow> {
  const path = patch.path === undefined ? undefined : await sourceFolder(config, patch.path)
  const [other] = path === undefined ? [] : await db.select().from(sources).where(and(eq(sources.path, path), ne(sources.id, sourceId)))
  if (other) throw new EmporionError('exists', { what: `${path} is the source "${other.name}" already.`, kept: 'Nothing was changed.', next: `Remove "${other.name}" first, or choose another folder.` })
  if (path !== undefined) await keepUpload(db, config, sourceId)
  const [source] = await db.update(sources).set({ name: patch.name?.trim(), path, paused: patch.paused, ...(path === undefined ? {} : { uploaded: false }) }).where(eq(sources.id, sourceId)).returning()
  if (!source) throw new EmporionError('not-found', 'This source was removed already.')
  return source
}

/** What was uploaded stays in the data folder, though its source lies elsewhere now. */
async function keepUpload(db: Database, config: StudioConfig, sourceId: number): Promise<void> {
  const [source] = await db.select().from(sources).where(eq(sources.id, sourceId))
  if (source?.uploaded && liesBelow(source.path, config.uploadsDir)) await writeFile(join(source.path, KEPT_MARK), '').catch(() => undefined)
}

/** Draws together anew the rows of all sounds of a source, or of one folder in it, part by part. */
export async function redrawSource(db: Database, sourceId: number, folder: string, each: (done: number, total: number) => void): Promise<number> {
  const touched = await db.selectDistinct({ soundId: files.soundId }).from(files)
    .where(and(eq(files.sourceId, sourceId), isNotNull(files.soundId), folder === '' ? undefined : sql`starts_with(${files.path}, ${`${folder}/`})`))
  const ids = touched.flatMap(row => row.soundId ?? [])
  for (let i = 0; i < ids.length; i += PART) {
    await db.transaction(tx => refreshSounds(tx, ids.slice(i, i + PART)))
    each(Math.min(ids.length, i + PART), ids.length)
  }
  return ids.length
}

/** Sources with files that are there and that older readers could not read or left out by their names, or whose sounds were measured by older methods. */
export async function outdatedSources(db: Database): Promise<{ id: number, name: string }[]> {
  const ofFiles = () => db.selectDistinct({ id: sources.id, name: sources.name }).from(sources).innerJoin(files, eq(files.sourceId, sources.id)).$dynamic()
  const isThere = and(eq(files.missing, false), eq(sources.paused, false))
  // Each by an index of its own; asked together, the database looks at every file.
  return union(
    ofFiles().innerJoin(sounds, eq(files.soundId, sounds.id)).where(and(isThere, lt(sounds.figuresVersion, FIGURES_VERSION))),
    ofFiles().where(and(isThere, isNotNull(files.error), lt(files.readersVersion, READERS_VERSION))),
    db.select({ id: sources.id, name: sources.name }).from(sources)
      .where(and(eq(sources.paused, false), sql`${sources.otherEndings} ?| ${sql.param([...AUDIO_EXTENSIONS])}::text[]`)),
  )
}

export async function listSources(db: Database): Promise<SourceView[]> {
  const counted = db.select({
    sourceId: files.sourceId,
    files: sql`count(*) filter (where sound_id is not null and not missing)`.mapWith(Number).as('files_here'),
    bytes: sql`coalesce(sum(size) filter (where size > 0 and not missing), 0)`.mapWith(Number).as('bytes_here'),
    unreadable: sql`count(*) filter (where error is not null and not missing)`.mapWith(Number).as('unreadable_here'),
    missing: sql`count(*) filter (where missing)`.mapWith(Number).as('missing_here'),
  }).from(files).groupBy(files.sourceId).as('counted')
  const rows = await db.select().from(sources).leftJoin(counted, eq(counted.sourceId, sources.id)).orderBy(naturally(sources.name), asc(sources.id))
  return rows.map(({ sources: source, counted: figures }) => ({
    id: source.id,
    name: source.name,
    path: source.path,
    uploaded: source.uploaded,
    lastScanAt: source.lastScanAt?.toISOString() ?? null,
    files: figures?.files ?? 0,
    bytes: figures?.bytes ?? 0,
    unreadable: figures?.unreadable ?? 0,
    missing: figures?.missing ?? 0,
    otherFiles: source.otherFiles,
    otherEndings: source.otherEndings,
    paused: source.paused,
    overlaps: rows.filter(({ sources: other }) => other.id !== source.id && (liesBelow(other.path, source.path) || liesBelow(source.path, other.path))).map(({ sources: other }) => other.name),
  }))
}

/**
 * Takes a source out of the library. Its files are left as they are; files that were dropped on the page are deleted from
 * the data folder.
 *
 * @param forget also forgets kinds, tags, favourites and notes set by hand of sounds that lie nowhere else; otherwise they
 *   come back with the sound
 */
export async function removeSource(db: Database, config: StudioConfig, sourceId: number, forget = false): Promise<void> {
  const [source] = await db.select().from(sources).where(eq(sources.id, sourceId))
  if (!source) throw new EmporionError('not-found', 'This source was removed already.')
  const touched = await db.selectDistinct({ soundId: files.soundId }).from(files).where(and(eq(files.sourceId, sourceId), isNotNull(files.soundId)))
  await db.delete(sources).where(eq(sources.id, sourceId))
  const ids = touched.flatMap(row => row.soundId ?? [])
  for (let i = 0; i < ids.length; i += PART) await db.transaction(tx => refreshSounds(tx, ids.slice(i, i + PART)))
  if (forget) await forgetMarks(db, ids)
  if (source.uploaded && liesBelow(source.path, config.uploadsDir) && source.path !== config.uploadsDir) {
    await rm(source.path, { recursive: true, force: true })
  }
}
