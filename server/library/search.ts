import { asc, count, desc, getTableColumns, inArray, sql } from 'drizzle-orm'
import type { Hit } from '../../core/audio/analysis/onsets'
import { figuresOf } from '../db/figureColumns'
import { schema, type Database } from '../db/open'
import type { FinderClient } from './finder/client'
import type { FoundPage } from './finder/protocol'
import type { Search } from '../../contract/searches'
import type { SearchPage, SoundRow } from '../../contract/library'

const { sounds } = schema

const rowColumns = {
  id: sounds.id,
  hash: sounds.hash,
  name: sounds.name,
  folder: sounds.folder,
  folders: sounds.folders,
  kind: sounds.kind,
  kindConfidence: sounds.kindConfidence,
  favourite: sounds.favourite,
  setAside: sounds.setAside,
  tags: sounds.tags,
  container: sounds.container,
  ...figuresOf(getTableColumns(sounds)),
  frames: sounds.frames,
  peak: sounds.peak,
  statedNote: sql<number | null>`(${sounds.embedded}->>'rootNote')::integer`,
  flags: sounds.flags,
  hits: sql<readonly Hit[]>`coalesce(${sounds.figures}->'hits', '[]')`,
  fileCount: sounds.fileCount,
  warnings: sql`jsonb_array_length(${sounds.warnings})`.mapWith(Number),
  addedAt: sounds.addedAt,
  overview: sounds.overview,
}

/** One window of what a search finds. Sounds that are gone since are left out. */
export async function searchPage(db: Database, finder: FinderClient, search: Search, offset: number, limit: number): Promise<SearchPage> {
  const isPlain = search.q.trim() === '' && search.source === undefined && search.folder === undefined && search.sort === 'name'
  const page = isPlain && !finder.isReady ? await plainPage(db, search.descending, offset, limit) : await finder.ask({ type: 'page', search, offset, limit })
  const { total, counts, ids, foundBy, nearness } = page
  const rows = new Map((await soundRows(db, ids)).map(row => [row.id, row]))
  return {
    total,
    counts,
    rows: ids.flatMap((id, i) => {
      const row = rows.get(id)
      return row ? [{ ...row, foundBy: foundBy[i]!, nearness: nearness?.[i] ?? null }] : []
    }),
  }
}

/** A window of all that is listed, by name, from the database alone: while the catalogue of a large library is made. */
async function plainPage(db: Database, isDescending: boolean, offset: number, limit: number): Promise<FoundPage> {
  // In the words of the index `sounds_listed`.
  const isListed = sql`file_count > 0 AND NOT set_aside`
  const order = isDescending ? desc : asc
  const [total, found] = await Promise.all([
    db.select({ count: count() }).from(sounds).where(isListed),
    db.select({ id: sounds.id }).from(sounds).where(isListed).orderBy(order(sounds.sortKey), order(sounds.id)).limit(limit).offset(offset),
  ])
  const listed = total[0]!.count
  return { total: listed, counts: { words: listed, kind: 0, near: 0 }, ids: found.map(({ id }) => id), foundBy: found.map(() => 'words'), nearness: undefined }
}

/** The rows of some ids, in no order. */
export async function soundRows(db: Database, ids: readonly number[]): Promise<SoundRow[]> {
  if (ids.length === 0) return []
  return (await db.select(rowColumns).from(sounds).where(inArray(sounds.id, [...ids]))).map(toRow)
}

/** The rows of some sounds by their identity, in the order given. */
export async function soundRowsByHash(db: Database, hashes: readonly string[]): Promise<SoundRow[]> {
  if (hashes.length === 0) return []
  const rows = await db.select(rowColumns).from(sounds).where(inArray(sounds.hash, [...hashes]))
  const byHash = new Map(rows.map(row => [row.hash, toRow(row)]))
  return hashes.flatMap(hash => byHash.get(hash) ?? [])
}

function toRow<T extends { overview: Buffer, addedAt: Date }>(row: T): Omit<T, 'overview' | 'addedAt'> & { overview: string, addedAt: string } {
  return { ...row, overview: row.overview.toString('base64'), addedAt: row.addedAt.toISOString() }
}
