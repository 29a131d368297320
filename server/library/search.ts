import { and, eq, gt, inArray, like, or, sql, type SQL } from 'drizzle-orm'
import { z } from 'zod'
import type { Flag } from '../../core/audio/analysis/figures'
import { isKind } from '../../core/search/kinds'
import { queryWords } from '../../core/search/words'
import { schema, type Database } from '../db/open'

const { sounds } = schema

/** What is asked of the library. */
export const searchSchema = z.object({
  q: z.string().max(500).default(''),
  kind: z.string().refine(path => path === 'none' || isKind(path), 'This kind is not in the tree.').optional(),
  source: z.coerce.number().int().optional(),
  favourite: z.enum(['yes']).optional(),
})
export type Search = z.infer<typeof searchSchema>

/** A sound as a row of the list. */
export interface SoundRow {
  readonly id: number
  readonly hash: string
  readonly name: string
  readonly folder: string
  readonly kind: string | null
  readonly kindConfidence: number | null
  readonly favourite: boolean
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
  /** Brings it to the common loudness. */
  readonly matchingGainDb: number | null
  readonly brightness: number | null
  readonly flags: readonly Flag[]
  readonly fileCount: number
  readonly warnings: number
  /** Base64 of the waveform overview. */
  readonly overview: string
}

const rowColumns = {
  id: sounds.id,
  hash: sounds.hash,
  name: sounds.name,
  folder: sounds.folder,
  kind: sounds.kind,
  kindConfidence: sounds.kindConfidence,
  favourite: sounds.favourite,
  tags: sounds.tags,
  container: sounds.container,
  sampleRate: sounds.sampleRate,
  bitDepth: sounds.bitDepth,
  channels: sounds.channels,
  frames: sounds.frames,
  lengthSeconds: sounds.lengthSeconds,
  peak: sounds.peak,
  effectiveSeconds: sounds.effectiveSeconds,
  hitLufs: sounds.hitLufs,
  matchingGainDb: sql<number | null>`(${sounds.figures}->'level'->>'matchingGainDb')::real`,
  brightness: sounds.brightness,
  flags: sounds.flags,
  fileCount: sounds.fileCount,
  warnings: sql`jsonb_array_length(${sounds.warnings})`.mapWith(Number),
  overview: sounds.overview,
}

/**
 * The ids of all sounds that a search finds, in the order of their names. They come as one text, since a hundred
 * thousand rows would hold up the main thread.
 */
export async function findIds(db: Database, search: Search): Promise<Int32Array> {
  // Sorted before it is gathered: so it can be read off an index in its order (PostgreSQL 15 documentation, 9.21).
  const found = db.select({ id: sounds.id }).from(sounds).where(conditions(search)).orderBy(sounds.sortKey, sounds.id).as('found')
  const [row] = await db.select({ ids: sql<string>`coalesce(string_agg(${found.id}::text, ','), '')` }).from(found)
  const text = row?.ids ?? ''
  return text === '' ? new Int32Array() : Int32Array.from(text.split(','), Number)
}

/** The rows of some ids, in their order. Ids that are gone are left out. */
export async function soundRows(db: Database, ids: ArrayLike<number>): Promise<SoundRow[]> {
  const wanted = Array.from(ids)
  if (wanted.length === 0) return []
  const rows = await db.select(rowColumns).from(sounds).where(inArray(sounds.id, wanted))
  const byId = new Map(rows.map(row => [row.id, { ...row, overview: row.overview.toString('base64') }]))
  return wanted.flatMap(id => byId.get(id) ?? [])
}

/** The rows of some sounds by their identity, in the order given. */
export async function soundRowsByHash(db: Database, hashes: readonly string[]): Promise<SoundRow[]> {
  if (hashes.length === 0) return []
  const rows = await db.select(rowColumns).from(sounds).where(inArray(sounds.hash, [...hashes]))
  const byHash = new Map(rows.map(row => [row.hash, { ...row, overview: row.overview.toString('base64') }]))
  return hashes.flatMap(hash => byHash.get(hash) ?? [])
}

export interface Facets {
  /** Counts by kind under the other conditions; `none` counts sounds of no known kind. */
  readonly kinds: readonly { readonly kind: string, readonly count: number }[]
  readonly sources: readonly { readonly sourceId: number, readonly count: number }[]
}

/** How many sounds each kind and each source would give, with the other conditions as they are. */
export async function facets(db: Database, search: Search): Promise<Facets> {
  const [kinds, sources] = await Promise.all([
    db.select({ kind: sql<string>`coalesce(${sounds.kind}, 'none')`, count: sql`count(*)`.mapWith(Number) })
      .from(sounds).where(conditions({ ...search, kind: undefined })).groupBy(sounds.kind),
    db.select({ sourceId: sql`unnest(${sounds.sourceIds})`.mapWith(Number), count: sql`count(*)`.mapWith(Number) })
      .from(sounds).where(conditions({ ...search, source: undefined })).groupBy(sql`1`),
  ])
  return { kinds, sources }
}

function conditions(search: Search): SQL | undefined {
  return and(
    gt(sounds.fileCount, 0),
    textCondition(search.q),
    kindCondition(search.kind),
    search.favourite === undefined ? undefined : eq(sounds.favourite, true),
    search.source === undefined ? undefined : sql`${sounds.sourceIds} @> ARRAY[${search.source}]::integer[]`,
  )
}

/** Words hold letters and digits alone, so that quoting them makes them lexemes and nothing else. */
function textCondition(query: string): SQL | undefined {
  const words = queryWords(query)
  if (words.length === 0) return query.trim() === '' ? undefined : sql`false`
  return sql`${sounds.search} @@ ${words.map(word => `'${word}':*`).join(' & ')}::tsquery`
}

function kindCondition(kind: string | undefined): SQL | undefined {
  if (kind === undefined) return undefined
  if (kind === 'none') return sql`${sounds.kind} is null`
  return or(eq(sounds.kind, kind), like(sounds.kind, `${kind}.%`))
}
