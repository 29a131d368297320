import { and, asc, eq, getTableColumns, gt, isNotNull } from 'drizzle-orm'
import Papa from 'papaparse'
import { EmporionError } from '../../core/errors'
import type { KeptFigure } from '../../core/figures/declaration'
import { KEPT_FIGURES, writtenFigure, type FigureKey } from '../../core/figures/register'
import { isKind, kindLabel, KINDS } from '../../core/search/kinds'
import { figuresOf } from '../db/figureColumns'
import { schema, type Database } from '../db/open'
import type { Mark } from '../db/mark'
import { tagSchema } from '../../contract/marks'
import { applyMarks, marksOf } from './marks'
import type { ListRead } from '../../contract/sources'

const { files, sounds, sources } = schema

const COLUMNS = ['path', 'kind', 'tags', 'favourite', 'note', ...KEPT_FIGURES.map(({ list }) => list.title)]
const ROWS_A_PART = 2000
const MOST_ROWS = 1_000_000
const SHOWN = 50

type Kept = KeptFigure & { readonly key: FigureKey }

/**
 * What is known of the sounds of a source as CSV (RFC 4180), piece by piece: path, kind, tags, favourite, note, and every figure
 * that is kept. Tags are parted by semicolons.
 */
export async function* listAsCsv(db: Database, sourceId: number): AsyncGenerator<string> {
  yield `${Papa.unparse([COLUMNS])}\r\n`
  let after = 0
  for (;;) {
    const rows = await db.select({ id: files.id, path: files.path, kind: sounds.kind, tags: sounds.tags, favourite: sounds.favourite, note: sounds.handNote, ...figuresOf(getTableColumns(sounds)) })
      .from(files).innerJoin(sounds, eq(files.soundId, sounds.id))
      .where(and(eq(files.sourceId, sourceId), eq(files.missing, false), gt(files.id, after))).orderBy(asc(files.id)).limit(ROWS_A_PART)
    const last = rows.at(-1)
    if (!last) return
    after = last.id
    yield `${Papa.unparse(rows.map(row => [row.path, row.kind ?? '', row.tags.join('; '), row.favourite ? 'yes' : '', row.note, ...KEPT_FIGURES.map((figure: Kept) => writtenFigure(figure, row[figure.key]))]), { header: false, newline: '\r\n', escapeFormulae: false })}\r\n`
  }
}

/**
 * Sets kinds, tags, favourites and notes from a list, as one step that can be undone. A kind that is what Emporion found
 * itself is not set by hand by this, so that it can still be found better. Tags are added to those that are there.
 *
 * @throws EmporionError `invalid` where the text is no such list
 */
export async function readList(db: Database, sourceId: number, text: string): Promise<ListRead> {
  const [source] = await db.select().from(sources).where(eq(sources.id, sourceId))
  if (!source) throw new EmporionError('not-found', 'This source was removed.')
  const rows = parseList(text)
  const known = new Map((await db.select({ path: files.path, soundId: files.soundId, kind: sounds.kind }).from(files)
    .innerJoin(sounds, eq(files.soundId, sounds.id)).where(and(eq(files.sourceId, sourceId), isNotNull(files.soundId)))).map(row => [row.path, row]))
  const unknown = rows.filter(row => !known.has(row.path))
  const unknownKinds = new Set<string>()
  const wanted = new Map<number, ListRow & { readonly found: string | null }>()
  for (const row of rows) {
    const file = known.get(row.path)
    if (row.kind !== '' && kindNamed(row.kind) === undefined) unknownKinds.add(row.kind)
    if (file?.soundId) wanted.set(file.soundId, { ...row, found: file.kind })
  }
  const before = await marksOf(db, [...wanted.keys()])
  const changed = before.map(mark => [mark, withRow(mark, wanted.get(mark.id)!)] as const).filter(([was, is]) => JSON.stringify(was) !== JSON.stringify(is))
  await applyMarks(db, changed.map(([was]) => was), changed.map(([, is]) => is), `what the list for ${source.name} says`)
  return { rows: rows.length, changed: changed.length, unknownPaths: unknown.length, firstUnknown: unknown.slice(0, SHOWN).map(row => row.path), unknownKinds: [...unknownKinds].slice(0, SHOWN) }
}

interface ListRow {
  readonly path: string
  readonly kind: string
  readonly tags: readonly string[]
  readonly favourite: string
  readonly note: string | undefined
}

function parseList(text: string): ListRow[] {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: 'greedy', transformHeader: header => header.trim().toLowerCase() })
  if (!parsed.meta.fields?.includes('path')) {
    throw new EmporionError('invalid', { what: 'This is no list that Emporion can read: its first line names no column "path".', kept: 'Nothing was changed.', next: 'Write the columns path, kind and tags; a list written by Emporion shows how.' })
  }
  if (parsed.data.length > MOST_ROWS) throw new EmporionError('limit', `The list has more than ${MOST_ROWS} rows. Nothing was changed.`)
  return parsed.data.map(row => ({
    path: (row.path ?? '').trim().replaceAll('\\', '/').replace(/^\.?\//, ''),
    kind: (row.kind ?? '').trim(),
    tags: (row.tags ?? '').split(';').map(tag => tag.trim()).filter(tag => tagSchema.safeParse(tag).success),
    favourite: (row.favourite ?? '').trim().toLowerCase(),
    note: row.note === undefined || row.note.trim() === '' ? undefined : row.note.slice(0, 4000),
  })).filter(row => row.path !== '')
}

const BY_LABEL = new Map(KINDS.map(kind => [kindLabel(kind.path).toLowerCase(), kind.path]))

/** A kind by its path or by its word. */
function kindNamed(text: string): string | undefined {
  const lower = text.toLowerCase()
  return isKind(lower) ? lower : BY_LABEL.get(lower)
}

function withRow(mark: Mark, row: ListRow & { readonly found: string | null }): Mark {
  const kind = kindNamed(row.kind)
  return {
    ...mark,
    kind: kind !== undefined && kind !== row.found ? kind : mark.kind,
    tags: [...new Set([...mark.tags, ...row.tags])],
    favourite: row.favourite === '' ? mark.favourite : ['yes', 'true', '1'].includes(row.favourite),
    note: row.note ?? mark.note,
  }
}
