import { sql, type SQL } from 'drizzle-orm'
import type { Flag } from '../../../core/audio/analysis/figures'
import type { CatalogueRow } from '../../../core/search/catalogue/row'
import { FLAG_NAMES } from '../../../core/search/query/fields'
import type { Database } from '../../db/open'

const ROWS_A_PART = 10_000
/** Fewer, since other questions wait while one part is taken over. */
const VECTORS_A_PART = 2_000
/** Signs that part columns, rows and items of a list: the record, unit and group separators of ASCII, which are taken out of texts. */
const ROW = '\u001E'
const COLUMN = '\u001F'
const ITEM = '\u001D'

const text = (column: string) => `translate(${column}, E'\\x1D\\x1E\\x1F', '')`
const list = (column: string) => `array_to_string(${column}, E'\\x1D')`
const whether = (condition: string) => `CASE WHEN ${condition} THEN '1' ELSE '' END`

/** In the order in which `rowOf` reads them. */
export const COLUMNS = [
  'revision', 'id', whether('file_count > 0'), text('sort_key'), 'words', `translate(${list('folders')}, E'\\x1E\\x1F', '')`, 'kind', list('tags'), list('flags'),
  'length_seconds', 'effective_seconds', 'hit_lufs', 'true_peak_db', 'brightness', 'pitch_note', 'tempo', 'sample_rate', 'bit_depth', 'channels',
  whether('favourite'), whether('set_aside'), whether(`warnings <> '[]'::jsonb`), whether('figures_version > 0'), 'file_count', 'extract(epoch from added_at)::integer',
]

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
  const at = (place: number) => columns[place]!
  const maybe = (place: number) => at(place) === '' ? null : Number(at(place))
  const items = (place: number) => at(place) === '' ? [] : at(place).split(ITEM)
  return {
    id: Number(at(1)),
    isListed: at(2) === '1',
    sortKey: at(3),
    words: at(4),
    folders: items(5),
    kind: at(6) || null,
    tags: items(7),
    flags: items(8).filter((name): name is Flag => FLAG_NAMES.some(flag => flag === name)),
    lengthSeconds: Number(at(9)),
    effectiveSeconds: maybe(10),
    hitLufs: maybe(11),
    truePeakDb: maybe(12),
    brightness: maybe(13),
    pitchNote: maybe(14),
    tempo: maybe(15),
    sampleRate: Number(at(16)),
    bitDepth: Number(at(17)),
    channels: Number(at(18)),
    favourite: at(19) === '1',
    aside: at(20) === '1',
    isDamaged: at(21) === '1',
    isMeasured: at(22) === '1',
    fileCount: Number(at(23)),
    addedSeconds: Number(at(24)),
  }
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
