import { rm, stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { and, asc, eq, isNotNull, lt, sql } from 'drizzle-orm'
import { FIGURES_VERSION } from '../../core/audio/analysis/figures'
import { EmporionError } from '../../core/errors'
import { schema, type Database } from '../db/open'
import type { StudioConfig } from '../studio/config'
import { refreshSounds } from './record'
import { allowedPath, liesBelow } from './roots'

const { files, sounds, sources } = schema

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
}

type SourceRow = typeof sources.$inferSelect

/** Makes a folder a source; the one that is there already when the folder was brought in before. */
export async function addSource(db: Database, source: { name: string, path: string, uploaded: boolean }): Promise<SourceRow> {
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
  const real = await allowedPath(path.trim(), config.roots)
  if (!(await stat(real)).isDirectory()) {
    throw new EmporionError('invalid', { what: `${path} is a file, not a folder.`, next: 'Name the folder that it lies in.' })
  }
  if (liesBelow(config.vaultDir, real) || liesBelow(real, config.vaultDir)) {
    throw new EmporionError('invalid', { what: `${path} holds the vault or lies in it, and the vault cannot be a source of itself.`, next: 'Choose a folder of samples.' })
  }
  return addSource(db, { name: basename(real) || real, path: real, uploaded: false })
}

/** Sources with files that are there and whose sounds were measured by older methods. */
export async function outdatedSources(db: Database): Promise<{ id: number, name: string }[]> {
  return db.selectDistinct({ id: sources.id, name: sources.name }).from(sources)
    .innerJoin(files, eq(files.sourceId, sources.id)).innerJoin(sounds, eq(files.soundId, sounds.id))
    .where(and(eq(files.missing, false), lt(sounds.figuresVersion, FIGURES_VERSION)))
}

export async function listSources(db: Database): Promise<SourceView[]> {
  const counted = db.select({
    sourceId: files.sourceId,
    files: sql`count(*) filter (where sound_id is not null and not missing)`.mapWith(Number).as('files_here'),
    bytes: sql`coalesce(sum(size) filter (where size > 0 and not missing), 0)`.mapWith(Number).as('bytes_here'),
    unreadable: sql`count(*) filter (where error is not null and not missing)`.mapWith(Number).as('unreadable_here'),
    missing: sql`count(*) filter (where missing)`.mapWith(Number).as('missing_here'),
  }).from(files).groupBy(files.sourceId).as('counted')
  const rows = await db.select().from(sources).leftJoin(counted, eq(counted.sourceId, sources.id)).orderBy(asc(sources.name), asc(sources.id))
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
  }))
}

/** What could not be read in a source, and why. */
export async function listUnreadable(db: Database, sourceId: number): Promise<{ path: string, reason: string }[]> {
  const rows = await db.select({ path: files.path, reason: files.error }).from(files)
    .where(and(eq(files.sourceId, sourceId), isNotNull(files.error), eq(files.missing, false))).orderBy(files.path)
  return rows.map(row => ({ path: row.path, reason: row.reason ?? '' }))
}

/** Forgets a source. Its files are left as they are; files that were dropped on the page are deleted from the data folder. */
export async function removeSource(db: Database, config: StudioConfig, sourceId: number): Promise<void> {
  const [source] = await db.select().from(sources).where(eq(sources.id, sourceId))
  if (!source) throw new EmporionError('not-found', 'This source was removed already.')
  const touched = await db.selectDistinct({ soundId: files.soundId }).from(files).where(and(eq(files.sourceId, sourceId), isNotNull(files.soundId)))
  await db.delete(sources).where(eq(sources.id, sourceId))
  const ids = touched.flatMap(row => row.soundId ?? [])
  for (let i = 0; i < ids.length; i += 500) await refreshSounds(db, ids.slice(i, i + 500))
  if (source.uploaded && liesBelow(source.path, config.uploadsDir) && source.path !== config.uploadsDir) {
    await rm(source.path, { recursive: true, force: true })
  }
}
