import { and, eq, or, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { readName } from '../../core/search/naming'
import type { SoundDetail } from '../../contract/library'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import { nearOf } from './near'
import { tempoOfSound, witnessesOf } from './summary'

const { files, presets, presetSounds, sounds, sources } = schema

/** Files that are named: a sound of silence may lie in every pack. */
const MOST_PLACES = 50


/** All that is known of one sound, with every file that holds it. */
export async function soundDetail(db: Database, hash: string): Promise<SoundDetail> {
  const [sound] = await db.select().from(sounds).where(or(eq(sounds.hash, hash), eq(sounds.formerHash, hash))).orderBy(sql`${sounds.hash} <> ${hash}`).limit(1)
  if (!sound) throw new EmporionError('not-found', { what: 'This sound is not in the library.', next: 'Bring in the folder that holds it.' })
  const places = await db.select({
    soundId: files.soundId, sourceId: files.sourceId, source: sources.name, root: sources.path, path: files.path, size: files.size, missing: files.missing, family: files.family,
    kind: files.kind, kindConfidence: files.kindConfidence, kindEvidence: files.kindEvidence, tagKind: files.tagKind, tagConfidence: files.tagConfidence, tagEvidence: files.tagEvidence,
  }).from(files).innerJoin(sources, eq(files.sourceId, sources.id)).where(eq(files.soundId, sound.id)).orderBy(files.id)
  const present = places.filter(place => !place.missing)
  const lead = present[0] ?? places[0]
  return {
    id: sound.id,
    hash: sound.hash,
    name: sound.name,
    container: sound.container,
    codec: sound.codec,
    kind: sound.kind,
    kindConfidence: sound.kindConfidence,
    kindEvidence: sound.kindEvidence,
    kindBy: witnessesOf(sound, present),
    tags: sound.tags,
    hand: { kind: sound.handKind, tags: sound.handTags, favourite: sound.favourite, note: sound.handNote, aside: sound.setAside },
    /** What the first file's name says beside the kind, and how many strokes its family has. */
    named: lead ? readName(lead.path) : null,
    strokes: lead?.family ? await countFamily(db, lead.sourceId, lead.family) : 0,
    near: await nearOf(db, sound.id),
    usedIn: await usesOf(db, hash),
    embedded: sound.embedded,
    warnings: sound.warnings,
    /** What is stated of its tempo, and where. */
    tempo: tempoOfSound({ lengthSeconds: sound.lengthSeconds, tagBpm: sound.embedded.tags?.bpm ?? null }, sound.kind, present) ?? null,
    figures: sound.figures,
    lengthSeconds: sound.lengthSeconds,
    sampleRate: sound.sampleRate,
    bitDepth: sound.bitDepth,
    channels: sound.channels,
    frames: sound.frames,
    places: { total: places.length, shown: [...present, ...places.filter(place => place.missing)].slice(0, MOST_PLACES).map(({ sourceId, root, path, size, missing }) => ({ sourceId, root, path, size, missing })) },
  }
}

/** The kits at work and the presets that use a sound, by name. */
async function usesOf(db: Database, hash: string): Promise<{ kits: string[], presets: string[] }> {
  const inKits = await db.execute<{ name: string }>(sql`
    SELECT kit->>'name' AS name FROM kits WHERE jsonb_path_exists(kit, '$.pads[*].layers[*].sound ? (@.id == $hash)', jsonb_build_object('hash', ${hash}::text)) ORDER BY ${naturally(sql`(kit->>'name')`)}`)
  const inPresets = await db.select({ name: presets.name }).from(presetSounds).innerJoin(presets, eq(presets.id, presetSounds.presetId)).where(eq(presetSounds.soundHash, hash)).groupBy(presets.name).orderBy(naturally(presets.name))
  return { kits: inKits.rows.map(row => row.name), presets: inPresets.map(row => row.name) }
}

function countFamily(db: Database, sourceId: number, family: string): Promise<number> {
  return db.$count(files, and(eq(files.sourceId, sourceId), eq(files.family, family), eq(files.missing, false)))
}
