import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Figures } from '../../core/audio/analysis/figures'
import { READERS_VERSION } from '../../core/audio/decode'
import type { EmbeddedData } from '../../core/audio/decoded'
import { measuredFigures } from '../../core/figures/register'
import { groupBy } from '../../core/groupBy'
import { kindFromName } from '../../core/search/kindFromName'
import { kindFromTags } from '../../core/search/kindFromTags'
import { readName } from '../../core/search/naming'
import { insertRows } from '../db/insertRows'
import { schema, type Database } from '../db/open'
import type { Analysis, SoundFacts } from './analyse'
import { summaryOf, type KnownSound, type PlaceOfSound } from './summary'
import type { WalkedFile } from './walk'

const { files, folderRules, sounds, sources } = schema

export interface AnalysedFile {
  readonly file: WalkedFile
  readonly analysis: Analysis
}

/** Size of what could not be looked at. */
export const UNKNOWN_BYTES = -1

interface NamedFile extends AnalysedFile {
  readonly named: NamedColumns
}

type NamedColumns = ReturnType<typeof namedColumns>

/** Writes one batch of analysed files of a source, in one transaction: all of them or none. */
export async function recordFiles(db: Database, sourceId: number, batch: readonly AnalysedFile[]): Promise<void> {
  if (batch.length === 0) return
  const entries = batch.map(entry => ({ ...entry, named: namedColumns(entry.file.path, 'facts' in entry.analysis ? entry.analysis.facts.embedded : {}) }))
  await db.transaction(async (tx) => {
    const { ids, seen } = await writeSounds(tx, sourceId, entries)
    const former = await tx.select({ soundId: files.soundId }).from(files)
      .where(and(eq(files.sourceId, sourceId), inArray(files.path, batch.map(({ file }) => file.path))))
    await tx.execute(sql`${insertRows(files, entries.map(entry => fileRow(sourceId, entry, ids)))}
      ON CONFLICT (source_id, path) DO UPDATE SET
        former_sound_id = CASE WHEN files.sound_id IS DISTINCT FROM excluded.sound_id THEN coalesce(files.former_sound_id, files.sound_id) ELSE files.former_sound_id END,
        size = excluded.size, modified_ms = excluded.modified_ms, sound_id = excluded.sound_id, error = excluded.error, readers_version = excluded.readers_version, missing = false,
        kind = excluded.kind, kind_confidence = excluded.kind_confidence, kind_evidence = excluded.kind_evidence,
        tag_kind = excluded.tag_kind, tag_confidence = excluded.tag_confidence, tag_evidence = excluded.tag_evidence,
        family = excluded.family`)
    await refreshSounds(tx, [...seen, ...former.map(row => row.soundId)].filter(id => id !== null))
  })
}

type Transaction = Pick<Database, 'select' | 'insert' | 'update' | 'execute'>

/**
 * Writes the sounds of a batch. A new one gets its whole row at once, name, kind and words included; one that is there
 * keeps all but what an older method measured.
 *
 * @returns the ids by hash, and those of sounds that were there before, whose rows are to be drawn together anew
 */
async function writeSounds(tx: Transaction, sourceId: number, batch: readonly NamedFile[]): Promise<{ ids: Map<string, number>, seen: number[] }> {
  const read = batch.flatMap(({ analysis, named }) => 'facts' in analysis ? [{ named, facts: analysis.facts }] : [])
  // In one order everywhere, so that two scans never wait for each other's rows.
  const unique = [...new Map(read.map(({ facts }) => [facts.hash, facts])).values()].sort((a, b) => a.hash < b.hash ? -1 : 1)
  if (unique.length === 0) return { ids: new Map(), seen: [] }
  const ofHashes = (hashes: readonly string[]) => tx.select({ id: sounds.id, hash: sounds.hash, version: sounds.figuresVersion }).from(sounds).where(inArray(sounds.hash, [...hashes]))
  const known = new Map((await ofHashes(unique.map(facts => facts.hash))).map(row => [row.hash, row]))
  const fresh = unique.filter(facts => !known.has(facts.hash))
  const inserted = await insertFresh(tx, sourceId, fresh, groupBy(read, entry => entry.facts.hash))
  const raced = fresh.filter(facts => !inserted.has(facts.hash))
  if (raced.length > 0) for (const row of await ofHashes(raced.map(facts => facts.hash))) known.set(row.hash, row)
  for (const facts of unique) {
    const row = known.get(facts.hash)
    if (row && row.version < facts.figures.version) await tx.update(sounds).set(measuredColumns(facts)).where(eq(sounds.id, row.id))
  }
  const seen = [...known.values()].map(row => row.id)
  return { ids: new Map([...inserted, ...[...known.values()].map(row => [row.hash, row.id] as const)]), seen }
}

async function insertFresh(tx: Transaction, sourceId: number, fresh: readonly SoundFacts[], places: ReadonlyMap<string, readonly { readonly named: NamedColumns }[]>): Promise<Map<string, number>> {
  if (fresh.length === 0) return new Map()
  const [source] = await tx.select({ name: sources.name }).from(sources).where(eq(sources.id, sourceId))
  const rules = await tx.select().from(folderRules).where(eq(folderRules.sourceId, sourceId))
  const rows = fresh.map((facts) => {
    const measured = measuredColumns(facts)
    const { audioKind, audioConfidence, audioEvidence, flags } = measured
    const timed = { lengthSeconds: facts.lengthSeconds, flags, tagBpm: facts.embedded.tags?.bpm ?? null }
    const summary = summaryOf({ ...UNMARKED, ...timed, audioKind, audioConfidence, audioEvidence }, (places.get(facts.hash) ?? []).map(({ named }) => ({ soundId: 0, sourceId, source: source?.name ?? '', ...named })), rules)
    return {
      ...measured,
      hash: facts.hash,
      formerHash: facts.formerHash,
      container: facts.container,
      codec: facts.codec,
      sampleRate: facts.sampleRate,
      bitDepth: facts.bitDepth,
      channels: facts.channels,
      frames: facts.frames,
      lengthSeconds: facts.lengthSeconds,
      peak: facts.peak,
      overview: Buffer.from(facts.overview.buffer, facts.overview.byteOffset, facts.overview.byteLength),
      embedded: facts.embedded,
      warnings: facts.warnings,
      name: summary.name,
      folder: summary.folder,
      sortKey: summary.sort_key,
      kind: summary.kind,
      kindConfidence: summary.kind_confidence,
      kindEvidence: summary.kind_evidence,
      tempo: summary.tempo,
      tags: summary.tags,
      words: summary.words,
      folders: summary.folders,
      sourceIds: summary.source_ids,
      fileCount: summary.file_count,
    }
  })
  const inserted = await tx.execute<{ id: number, hash: string }>(sql`${insertRows(sounds, rows)} ON CONFLICT (hash) DO NOTHING RETURNING id, hash`)
  return new Map(inserted.rows.map(row => [row.hash, row.id]))
}

const UNMARKED = { id: 0, handKind: null, handTags: [], handNote: '', kind: null, kindConfidence: null, kindEvidence: null, tempo: null }

/** What was measured of a sound: all that a better method may change. */
function measuredColumns({ figures, features, audioKind }: SoundFacts) {
  return {
    ...figureColumns(figures),
    features: features && Buffer.from(features.buffer, features.byteOffset, features.byteLength),
    audioKind: audioKind?.path ?? null,
    audioConfidence: audioKind?.confidence ?? null,
    audioEvidence: audioKind?.evidence ?? null,
  }
}

function figureColumns(figures: Figures) {
  return {
    figures,
    figuresVersion: figures.version,
    ...measuredFigures(figures),
    flags: [...figures.flags],
  }
}

function fileRow(sourceId: number, { file, analysis, named }: NamedFile, ids: ReadonlyMap<string, number>) {
  return {
    sourceId,
    // What the disk would not give is tried again by every scan.
    size: 'isOfDisk' in analysis ? UNKNOWN_BYTES : file.size,
    modifiedMs: file.modifiedMs,
    soundId: 'facts' in analysis ? ids.get(analysis.facts.hash) ?? null : null,
    error: 'error' in analysis ? analysis.error : null,
    readersVersion: READERS_VERSION,
    ...named,
  }
}

/** What a file's name and tags say. */
function namedColumns(path: string, embedded: EmbeddedData) {
  const byName = kindFromName(path)
  const byTags = kindFromTags(embedded)
  return {
    path,
    kind: byName?.path ?? null,
    kindConfidence: byName?.confidence ?? null,
    kindEvidence: byName?.evidence ?? null,
    tagKind: byTags?.path ?? null,
    tagConfidence: byTags?.confidence ?? null,
    tagEvidence: byTags?.evidence ?? null,
    family: readName(path).family ?? null,
  }
}

/**
 * Draws together anew what the rows of sounds say: name, folder, words to be found by, the tempo, and the kind, from what was set
 * by hand, else from a rule of a folder, else from the witnesses. To be called within a transaction.
 */
export async function refreshSounds(tx: Transaction, soundIdsToRefresh: readonly number[]): Promise<void> {
  const ids = [...new Set(soundIdsToRefresh)]
  if (ids.length === 0) return
  // Held from here on, so that whoever draws the same rows together at the same time sees the files as they are after this.
  const known: KnownSound[] = await tx.select({
    id: sounds.id, audioKind: sounds.audioKind, audioConfidence: sounds.audioConfidence, audioEvidence: sounds.audioEvidence,
    handKind: sounds.handKind, handTags: sounds.handTags, handNote: sounds.handNote,
    kind: sounds.kind, kindConfidence: sounds.kindConfidence, kindEvidence: sounds.kindEvidence, tempo: sounds.tempo,
    lengthSeconds: sounds.lengthSeconds, flags: sounds.flags, tagBpm: sql<number | null>`(${sounds.embedded}->'tags'->>'bpm')::real`,
  }).from(sounds).where(inArray(sounds.id, ids)).orderBy(sounds.id).for('update')
  const places: PlaceOfSound[] = await tx.select({
    soundId: files.soundId, sourceId: files.sourceId, source: sources.name, path: files.path,
    kind: files.kind, kindConfidence: files.kindConfidence, kindEvidence: files.kindEvidence,
    tagKind: files.tagKind, tagConfidence: files.tagConfidence, tagEvidence: files.tagEvidence,
  }).from(files).innerJoin(sources, eq(files.sourceId, sources.id))
    .where(and(inArray(files.soundId, ids), eq(files.missing, false))).orderBy(files.id)
  const rules = await tx.select().from(folderRules).where(inArray(folderRules.sourceId, [...new Set(places.map(place => place.sourceId))]))
  const bySound = groupBy(places, place => place.soundId)
  const summaries = known.map(sound => summaryOf(sound, bySound.get(sound.id) ?? [], rules))
  await tx.execute(sql`
    UPDATE sounds s SET
      name = coalesce(x.name, s.name), folder = coalesce(x.folder, s.folder), sort_key = coalesce(x.sort_key, s.sort_key),
      kind = x.kind, kind_confidence = x.kind_confidence, kind_evidence = x.kind_evidence, tempo = x.tempo,
      tags = ARRAY(SELECT jsonb_array_elements_text(x.tags)),
      words = x.words,
      folders = ARRAY(SELECT jsonb_array_elements_text(x.folders)),
      source_ids = ARRAY(SELECT jsonb_array_elements_text(x.source_ids)::integer),
      file_count = x.file_count
    FROM jsonb_to_recordset(${JSON.stringify(summaries)}::jsonb) AS x(
      id integer, name text, folder text, sort_key text, kind text, kind_confidence real, kind_evidence text, tempo real,
      tags jsonb, words text, folders jsonb, source_ids jsonb, file_count integer)
    WHERE s.id = x.id`)
}
