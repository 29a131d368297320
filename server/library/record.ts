import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Figures } from '../../core/audio/analysis/figures'
import { groupBy } from '../../core/groupBy'
import { kindFromName } from '../../core/search/kindFromName'
import { kindFromTags } from '../../core/search/kindFromTags'
import { readName } from '../../core/search/naming'
import { schema, type Database } from '../db/open'
import type { Analysis, SoundFacts } from './analyse'
import { summaryOf, type KnownSound, type PlaceOfSound } from './summary'
import type { WalkedFile } from './walk'

const { files, folderRules, sounds, sources } = schema

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
          tagKind: sql`excluded.tag_kind`,
          tagConfidence: sql`excluded.tag_confidence`,
          tagEvidence: sql`excluded.tag_evidence`,
          family: sql`excluded.family`,
        },
      })
    await refreshSounds(tx, [...ids.values(), ...former.map(row => row.soundId)].filter(id => id !== null))
  })
}

type Transaction = Pick<Database, 'select' | 'insert' | 'update' | 'execute'>

async function soundIds(tx: Transaction, facts: readonly SoundFacts[]): Promise<Map<string, number>> {
  // In one order everywhere, so that two scans never wait for each other's rows.
  const unique = [...new Map(facts.map(fact => [fact.hash, fact])).values()].sort((a, b) => a.hash < b.hash ? -1 : 1)
  if (unique.length === 0) return new Map()
  await tx.insert(sounds).values(unique.map(({ figures, features, audioKind, ...fact }) => ({
    ...fact,
    ...figureColumns(figures),
    features: features && Buffer.from(features),
    audioKind: audioKind?.path ?? null,
    audioConfidence: audioKind?.confidence ?? null,
    audioEvidence: audioKind?.evidence ?? null,
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
      features: sql`excluded.features`,
      audioKind: sql`excluded.audio_kind`,
      audioConfidence: sql`excluded.audio_confidence`,
      audioEvidence: sql`excluded.audio_evidence`,
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
  const byName = kindFromName(file.path)
  const byTags = 'facts' in analysis ? kindFromTags(analysis.facts.embedded) : undefined
  return {
    sourceId,
    path: file.path,
    size: file.size,
    modifiedMs: file.modifiedMs,
    soundId: 'facts' in analysis ? ids.get(analysis.facts.hash) ?? null : null,
    error: 'error' in analysis ? analysis.error : null,
    kind: byName?.path ?? null,
    kindConfidence: byName?.confidence ?? null,
    kindEvidence: byName?.evidence ?? null,
    tagKind: byTags?.path ?? null,
    tagConfidence: byTags?.confidence ?? null,
    tagEvidence: byTags?.evidence ?? null,
    family: readName(file.path).family ?? null,
  }
}

/**
 * Draws together anew what the rows of sounds say: name, folder, words to be found by, and the kind, from what was set
 * by hand, else from a rule of a folder, else from the witnesses.
 */
export async function refreshSounds(tx: Transaction, soundIdsToRefresh: readonly number[]): Promise<void> {
  const ids = [...new Set(soundIdsToRefresh)]
  if (ids.length === 0) return
  const places: PlaceOfSound[] = await tx.select({
    soundId: files.soundId, sourceId: files.sourceId, source: sources.name, path: files.path,
    kind: files.kind, kindConfidence: files.kindConfidence, kindEvidence: files.kindEvidence,
    tagKind: files.tagKind, tagConfidence: files.tagConfidence, tagEvidence: files.tagEvidence,
  }).from(files).innerJoin(sources, eq(files.sourceId, sources.id))
    .where(and(inArray(files.soundId, ids), eq(files.missing, false))).orderBy(files.id)
  const known: KnownSound[] = await tx.select({
    id: sounds.id, audioKind: sounds.audioKind, audioConfidence: sounds.audioConfidence, audioEvidence: sounds.audioEvidence,
    handKind: sounds.handKind, handTags: sounds.handTags, handNote: sounds.handNote,
    kind: sounds.kind, kindConfidence: sounds.kindConfidence, kindEvidence: sounds.kindEvidence,
  }).from(sounds).where(inArray(sounds.id, ids))
  const rules = await tx.select().from(folderRules).where(inArray(folderRules.sourceId, [...new Set(places.map(place => place.sourceId))]))
  const bySound = groupBy(places, place => place.soundId)
  const summaries = known.map(sound => summaryOf(sound, bySound.get(sound.id) ?? [], rules))
  await tx.execute(sql`
    UPDATE sounds s SET
      name = coalesce(x.name, s.name), folder = coalesce(x.folder, s.folder), sort_key = coalesce(x.sort_key, s.sort_key),
      kind = x.kind, kind_confidence = x.kind_confidence, kind_evidence = x.kind_evidence,
      tags = ARRAY(SELECT jsonb_array_elements_text(x.tags)),
      search = array_to_tsvector(ARRAY(SELECT jsonb_array_elements_text(x.words))),
      source_ids = ARRAY(SELECT jsonb_array_elements_text(x.source_ids)::integer),
      file_count = x.file_count
    FROM jsonb_to_recordset(${JSON.stringify(summaries)}::jsonb) AS x(
      id integer, name text, folder text, sort_key text, kind text, kind_confidence real, kind_evidence text,
      tags jsonb, words jsonb, source_ids jsonb, file_count integer)
    WHERE s.id = x.id`)
}
