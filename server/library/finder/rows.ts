import { sql, type SQL } from 'drizzle-orm'
import type { Flag } from '../../../core/audio/analysis/figures'
import { KEPT_FIGURES, type FigureValues } from '../../../core/figures/register'
import type { CatalogueRow } from '../../../core/search/catalogue/row'
import { FLAG_NAMES } from '../../../core/search/query/fields'
import { columnOfFigure } from '../../db/figureColumns'
import type { Database } from '../../db/open'

const ROWS_A_PART = 10_000
/** Fewer, since other questions wait while one part is taken over. */
const VECTORS_A_PART = 2_000
/** Signs that part columns, rows and items of a list: the record, unit and group separators of ASCII, which are taken out of texts. */
const ROW = '\u001E'
const COLUMN = '\u001F'
const ITEM = '\u001D'

/** How one property of a row is asked for, and read from the text that comes back; that is empty where there is none. */
interface Part<T> {
  readonly asked: string
  readonly read: (text: string) => T
}

const items = (text: string) => text === '' ? [] : text.split(ITEM)
const word = (column: string): Part<string> => ({ asked: `translate(${column}, E'\\x1D\\x1E\\x1F', '')`, read: text => text })
const list = (column: string): Part<readonly string[]> => ({ asked: `array_to_string(${column}, E'\\x1D')`, read: items })
const whether = (condition: string): Part<boolean> => ({ asked: `CASE WHEN ${condition} THEN '1' ELSE '' END`, read: text => text === '1' })
const number = (column: string): Part<number> => ({ asked: column, read: Number })
const maybe = (column: string): Part<number | null> => ({ asked: column, read: text => text === '' ? null : Number(text) })

type Parts<Row> = { readonly [Key in keyof Row]: Part<Row[Key]> }

const FIGURE_PARTS = Object.fromEntries(KEPT_FIGURES.map(({ key, isAlways }) => [key, isAlways ? number(columnOfFigure(key)) : maybe(columnOfFigure(key))])) as unknown as Parts<FigureValues>

const ROW_PARTS: Parts<CatalogueRow> = {
  id: number('id'),
  isListed: whether('file_count > 0'),
  sortKey: word('sort_key'),
  words: { asked: 'words', read: text => text },
  folders: { asked: `translate(${list('folders').asked}, E'\\x1E\\x1F', '')`, read: items },
  kind: { asked: 'kind', read: text => text || null },
  tags: list('tags'),
  flags: { asked: list('flags').asked, read: text => items(text).filter((name): name is Flag => FLAG_NAMES.some(flag => flag === name)) },
  favourite: whether('favourite'),
  aside: whether('set_aside'),
  isDamaged: whether(`warnings <> '[]'::jsonb`),
  isMeasured: whether('figures_version > 0'),
  fileCount: number('file_count'),
  addedSeconds: number('extract(epoch from added_at)::integer'),
  ...FIGURE_PARTS,
}

const ROW_ENTRIES = Object.entries<Part<unknown>>(ROW_PARTS)

/** All that is asked for, in its order, the revision first. */
export const COLUMNS = ['revision', ...ROW_ENTRIES.map(([, { asked }]) => asked)]

const SOUND = sql.raw(COLUMNS.map(column => `coalesce((${column})::text, '')`).join(', '))

/** Rows that have changed, and the revision that is reached with them. */
export interface ChangedSounds {
  readonly rows: readonly CatalogueRow[]
  readonly revision: number
}

/**
 * Sounds that have changed since a revision, part by part, with the revision that was reached. The database gives a part as one
 * text: to read its rows one by one, or its columns as JSON, takes several times as long. While a part is worked on, the
 * next one is on its way.
 */
export async function* changedSounds(db: Database, since: number): AsyncGenerator<ChangedSounds> {
  for await (const lines of partsOf(db, since, SOUND)) yield soundsIn(lines, since)
}

/** The first part of them, undefined when there are none. */
export async function someChangedSounds(db: Database, since: number): Promise<ChangedSounds | undefined> {
  const part = await partAfter(db, since, SOUND)
  return part && soundsIn(part.lines, since)
}

function soundsIn(lines: readonly string[], since: number): ChangedSounds {
  const rows: CatalogueRow[] = []
  let revision = since
  for (const line of lines) {
    const columns = line.split(COLUMN)
    revision = Number(columns[0])
    rows.push(rowOf(columns))
  }
  return { rows, revision }
}

/** Vectors of the next sounds that have changed since a revision; undefined when there are none. */
export async function nextVectors(db: Database, since: number): Promise<{ vectors: { id: number, vector: Uint8Array }[], revision: number } | undefined> {
  const part = await partAfter(db, since, sql.raw(`revision, id, encode(features, 'hex')`), VECTORS_A_PART, sql.raw('AND features IS NOT NULL'))
  return part && {
    revision: part.last,
    vectors: part.lines.map((line) => {
      const [, id, features] = line.split(COLUMN)
      return { id: Number(id), vector: Buffer.from(features!, 'hex') }
    }),
  }
}

async function* partsOf(db: Database, since: number, columns: SQL): AsyncGenerator<string[]> {
  let coming = partAfter(db, since, columns)
  for (;;) {
    const part = await coming
    if (!part) return
    const isLast = part.lines.length < ROWS_A_PART
    if (!isLast) coming = partAfter(db, part.last, columns)
    yield part.lines
    if (isLast) return
  }
}

async function partAfter(db: Database, after: number, columns: SQL, most = ROWS_A_PART, condition: SQL = sql.raw('')): Promise<{ last: number, lines: string[] } | undefined> {
  const { rows: [part] } = await db.execute<{ last: string | null, lines: string | null }>(sql`
    SELECT max(revision) AS last, string_agg(concat_ws(E'\\x1F', ${columns}), E'\\x1E') AS lines
    FROM (SELECT * FROM sounds WHERE revision > ${after} ${condition} ORDER BY revision LIMIT ${most}) changed`)
  return part?.lines ? { last: Number(part.last), lines: part.lines.split(ROW) } : undefined
}

function rowOf(columns: readonly string[]): CatalogueRow {
  const row: Record<string, unknown> = {}
  ROW_ENTRIES.forEach(([key, { read }], i) => row[key] = read(columns[i + 1]!))
  return row as unknown as CatalogueRow
}

/** The ids of the sounds that kits at work or presets use. */
export async function usedSounds(db: Database): Promise<number[]> {
  const { rows: [answer] } = await db.execute<{ ids: number[] | null }>(sql`
    SELECT json_agg(id) AS ids FROM sounds WHERE hash IN (
      SELECT sound_hash FROM preset_sounds
      UNION SELECT jsonb_path_query(kit, '$.pads[*].layers[*].sound.id') #>> '{}' FROM kits)`)
  return answer?.ids ?? []
}

/** The ids of the sounds that are one recording with another, itself among them, through any chain of pairs. */
export async function sameRecording(db: Database, id: number): Promise<number[]> {
  const { rows } = await db.execute<{ id: number }>(sql`
    WITH found AS (SELECT group_id FROM near_duplicates WHERE first_id = ${id} OR second_id = ${id} LIMIT 1)
    SELECT ${id}::integer AS id UNION SELECT unnest(ARRAY[first_id, second_id]) FROM near_duplicates WHERE group_id = (SELECT group_id FROM found)`)
  return rows.map(row => row.id)
}

/** The ids of the sounds that are strokes of one family with another by the names of their files, itself among them. */
export async function strokesOfFamily(db: Database, id: number): Promise<number[]> {
  const { rows } = await db.execute<{ id: number }>(sql`
    SELECT ${id}::integer AS id UNION SELECT other.sound_id FROM files own JOIN files other ON other.source_id = own.source_id AND other.family = own.family
    WHERE own.sound_id = ${id} AND NOT own.missing AND NOT other.missing AND other.sound_id IS NOT NULL`)
  return rows.map(row => row.id)
}
