import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Figures } from '../../core/audio/analysis/figures'
import { groupBy } from '../../core/groupBy'
import { kindFromName } from '../../core/search/kindFromName'
import { naturalKey } from '../../core/search/naturalKey'
import { searchTokens } from '../../core/search/tokens'
import { schema, type Database } from '../db/open'
import type { Analysis, SoundFacts } from './analyse'
import type { WalkedFile } from './walk'

const { files, sounds, sources } = schema

export interface AnalysedFile {
  readonly file: WalkedFile
  readonly analysis: Analysis
}

type FileRow = typeof files.$inferInsert

/** Writes one batch of analysed files of a source, in one transaction: all of them or none. */
export async function recordFiles(db: Database, sourceId: number, batch: readonly AnalysedFile[]): Promise<void> {
  await db.transaction(async (tx) => {
    const ids = await soundIds(tx, batch.flatMap(({ analysis }) => 'facts' in analysis ? [analysis.facts] : []))
    const former = await tx.select({ soundId: files.soundId }).from(files)
      .where(and(eq(files.sourceId, sourceId), inArray(files.path, batch.map(({ file }) => file.path))))
    await tx.insert(files).values(batch.map(entry => fileRow(sourceId, entry, ids)))
      .onConflictDoUpdate({
        target: [files.sourceId, files.path],
        set: {
          size: sql`excluded.size`,
          modifiedMs: sql`excluded.modified_ms`,
          soundId: sql`excluded.sound_id`,
          error: sql`excluded.error`,
          missing: sql`false`,
          kind: sql`excluded.kind`,
          kindConfidence: sql`excluded.kind_confidence`,
          kindEvidence: sql`excluded.kind_evidence`,
        },
      })
    await refreshSounds(tx, [...ids.values(), ...former.map(row => row.soundId)].filter(id => id !== null))
  })
}

type Transaction = Pick<Database, 'select' | 'insert' | 'update' | 'execute'>

async function soundIds(tx: Transaction, facts: readonly SoundFacts[]): Promise<Map<string, number>> {
  const unique = [...new Map(facts.map(fact => [fact.hash, fact])).values()]
  if (unique.length === 0) return new Map()
  await tx.insert(sounds).values(unique.map(({ figures, ...fact }) => ({
    ...fact,
    ...figureColumns(figures),
    overview: Buffer.from(fact.overview),
    warnings: [...fact.warnings],
  }))).onConflictDoUpdate({
    target: sounds.hash,
    // A sound that is there keeps all but what an older method measured.
    set: {
      figures: sql`excluded.figures`,
      figuresVersion: sql`excluded.figures_version`,
      hitLufs: sql`excluded.hit_lufs`,
      effectiveSeconds: sql`excluded.effective_seconds`,
      brightness: sql`excluded.brightness`,
      flags: sql`excluded.flags`,
    },
    setWhere: sql`${sounds.figuresVersion} < excluded.figures_version`,
  })
  const rows = await tx.select({ id: sounds.id, hash: sounds.hash }).from(sounds).where(inArray(sounds.hash, unique.map(fact => fact.hash)))
  return new Map(rows.map(row => [row.hash, row.id]))
}

function figureColumns(figures: Figures) {
  return {
    figures,
    figuresVersion: figures.version,
    hitLufs: figures.level?.hitLufs ?? null,
    effectiveSeconds: figures.timing?.effectiveSeconds ?? null,
    brightness: figures.brightness,
    flags: [...figures.flags],
  }
}

function fileRow(sourceId: number, { file, analysis }: AnalysedFile, ids: ReadonlyMap<string, number>): FileRow {
  const guess = kindFromName(file.path)
  return {
    sourceId,
    path: file.path,
    size: file.size,
    modifiedMs: file.modifiedMs,
    soundId: 'facts' in analysis ? ids.get(analysis.facts.hash) ?? null : null,
    error: 'error' in analysis ? analysis.error : null,
    kind: guess?.path ?? null,
    kindConfidence: guess?.confidence ?? null,
    kindEvidence: guess?.evidence ?? null,
  }
}

interface FileOfSound {
  readonly soundId: number | null
  readonly sourceId: number
  readonly source: string
  readonly path: string
  readonly kind: string | null
  readonly kindConfidence: number | null
  readonly kindEvidence: string | null
}

/** Draws together anew what the rows of sounds say of their files: name, folder, kind, words to be found by. */
export async function refreshSounds(tx: Transaction, soundIdsToRefresh: readonly number[]): Promise<void> {
  const ids = [...new Set(soundIdsToRefresh)]
  if (ids.length === 0) return
  const rows: FileOfSound[] = await tx.select({
    soundId: files.soundId, sourceId: files.sourceId, source: sources.name, path: files.path,
    kind: files.kind, kindConfidence: files.kindConfidence, kindEvidence: files.kindEvidence,
  }).from(files).innerJoin(sources, eq(files.sourceId, sources.id))
    .where(and(inArray(files.soundId, ids), eq(files.missing, false))).orderBy(files.id)
  const bySound = groupBy(rows, row => row.soundId)
  const summaries = ids.map(id => summaryOf(id, bySound.get(id) ?? []))
  await tx.execute(sql`
    UPDATE sounds s SET
      name = coalesce(x.name, s.name), folder = coalesce(x.folder, s.folder), sort_key = coalesce(x.sort_key, s.sort_key),
      kind = coalesce(x.kind, s.kind), kind_confidence = coalesce(x.kind_confidence, s.kind_confidence),
      kind_evidence = coalesce(x.kind_evidence, s.kind_evidence),
      search = array_to_tsvector(ARRAY(SELECT jsonb_array_elements_text(x.words))),
      source_ids = ARRAY(SELECT jsonb_array_elements_text(x.source_ids)::integer),
      file_count = x.file_count
    FROM jsonb_to_recordset(${JSON.stringify(summaries)}::jsonb) AS x(
      id integer, name text, folder text, sort_key text, kind text, kind_confidence real, kind_evidence text,
      words jsonb, source_ids jsonb, file_count integer)
    WHERE s.id = x.id`)
}

function summaryOf(id: number, rows: readonly FileOfSound[]) {
  const lead = rows[0]
  const certain = rows.toSorted((a, b) => (b.kindConfidence ?? 0) - (a.kindConfidence ?? 0))[0]
  const name = lead && stem(lead.path)
  const folder = lead && [lead.source, ...lead.path.split('/').slice(0, -1)].join('/')
  return {
    id,
    name,
    folder,
    sort_key: name !== undefined ? naturalKey(`${name} ${folder}`) : undefined,
    kind: certain?.kind,
    kind_confidence: certain?.kindConfidence,
    kind_evidence: certain?.kindEvidence,
    words: [...new Set(rows.flatMap(row => searchTokens(`${row.source}/${row.path}`)))],
    source_ids: [...new Set(rows.map(row => row.sourceId))],
    file_count: rows.length,
  }
}

/** The name of a file without its folders and its ending. */
export function stem(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1)
  const dot = name.lastIndexOf('.')
  return dot > 0 ? name.slice(0, dot) : name
}
