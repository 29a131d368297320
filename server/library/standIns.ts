import { and, gt, inArray, isNotNull, sql } from 'drizzle-orm'
import { groupBy } from '../../core/groupBy'
import type { SoundRef } from '../../core/kit/document'
import { schema, type Database } from '../db/open'
import type { StudioConfig } from '../base/config'
import { expectSounds, locateSound } from './locate'
import { soundRows } from './search'
import type { SoundRow, StandIn, StandInReason, StandIns } from '../../contract/library'

const { sounds } = schema

/** What a kit knows of a sound of which no file can be found. */
export type WantedSound = Pick<SoundRef, 'id' | 'name' | 'frames' | 'sampleRate'>

const MOST_OF_A_NAME = 5
/** Sounds of one name and kind whose lengths differ by no more than this, as a part of the longer one, are taken for one. */
const LENGTH_APART = 0.05

/** Which of some sounds have no file, neither in the library nor in the vault, as far as those were last looked through. */
export async function withoutFiles(db: Database, hashes: readonly string[]): Promise<string[]> {
  const { rows } = await db.execute<{ hash: string }>(sql`
    SELECT hash FROM jsonb_array_elements_text(${JSON.stringify(hashes)}::jsonb) AS asked (hash)
    WHERE NOT EXISTS (SELECT FROM sounds s WHERE (s.hash = asked.hash OR s.former_hash = asked.hash) AND s.file_count > 0) AND NOT EXISTS (SELECT FROM preset_sounds p WHERE p.sound_hash = asked.hash)`)
  return rows.map(row => row.hash)
}

/** The containers of sounds that have a file in the library, by their hashes; what the vault alone holds is not among them. */
export async function containersOf(db: Database, hashes: readonly string[]): Promise<Record<string, string>> {
  const rows = await db.select({ hash: sounds.hash, container: sounds.container }).from(sounds).where(and(inArray(sounds.hash, [...hashes]), gt(sounds.fileCount, 0)))
  return Object.fromEntries(rows.map(({ hash, container }) => [hash, container]))
}

/**
 * What the library holds that may take the place of sounds whose files are gone: what their files hold now, surely where that is
 * of the same kind; the same recording, as far as that was looked for; and what bears their names, of one kind and length first.
 *
 * @returns by the ids asked for
 */
export async function standInsFor(db: Database, config: StudioConfig, wanted: readonly WantedSound[]): Promise<Record<string, StandIns>> {
  if (wanted.length === 0) return {}
  const known = await db.select({ hash: sounds.hash, id: sounds.id, folder: sounds.folder, isComparable: isNotNull(sounds.features) }).from(sounds).where(inArray(sounds.hash, wanted.map(({ id }) => id)))
  const asked = JSON.stringify(wanted.map(({ id, name, frames, sampleRate }) => ({ hash: id, name, seconds: frames / sampleRate })))
  const { rows: candidates } = await db.execute<{ hash: string, reason: StandInReason, id: number, is_sure: boolean }>(sql`
    WITH RECURSIVE wanted AS (
      SELECT w.hash, w.name, w.seconds, s.id, s.kind FROM jsonb_to_recordset(${asked}::jsonb) AS w (hash text, name text, seconds float8) LEFT JOIN sounds s ON s.hash = w.hash
    ), heirs AS (
      SELECT w.hash, s.became_id AS id FROM wanted w JOIN sounds s ON s.id = w.id WHERE s.became_id IS NOT NULL
      UNION SELECT h.hash, s.became_id FROM heirs h JOIN sounds s ON s.id = h.id WHERE s.became_id IS NOT NULL
    ), named AS (
      SELECT w.hash, s.id, s.kind IS NOT DISTINCT FROM w.kind AND s.kind IS NOT NULL AS is_kin, abs(s.length_seconds - w.seconds) / greatest(s.length_seconds, w.seconds) AS apart
      FROM wanted w JOIN sounds s ON lower(s.name) = lower(w.name) AND s.hash <> w.hash AND s.file_count > 0
    ), nearest AS (
      SELECT *, row_number() OVER (PARTITION BY hash ORDER BY is_kin DESC, apart, id) AS place FROM named
    )
    SELECT w.hash, 'file' AS reason, s.id, s.kind IS NOT DISTINCT FROM w.kind AS is_sure, 0 AS place
      FROM heirs h JOIN wanted w ON w.hash = h.hash JOIN sounds s ON s.id = h.id AND s.hash <> h.hash AND s.file_count > 0
    UNION ALL
    SELECT w.hash, 'recording', s.id, true, 1
      FROM wanted w JOIN (SELECT first_id AS id, second_id AS other_id FROM near_duplicates UNION ALL SELECT second_id, first_id FROM near_duplicates) n ON n.id = w.id
      JOIN sounds s ON s.id = n.other_id AND s.file_count > 0
    UNION ALL
    SELECT hash, 'name', id, is_kin AND apart <= ${LENGTH_APART}, 1 + place FROM nearest WHERE place <= ${MOST_OF_A_NAME}
    ORDER BY place, id`)
  const rows = new Map((await thatAreThere(db, config, [...new Set(candidates.map(({ id }) => id))])).map(row => [row.id, row]))
  const found = groupBy(candidates, ({ hash }) => hash)
  const knownAs = new Map(known.map(row => [row.hash, row]))
  return Object.fromEntries(wanted.map(({ id: hash }) => {
    const standIns = new Map<number, StandIn>()
    for (const { id, reason, is_sure: isSure } of found.get(hash) ?? []) {
      const [row, other] = [rows.get(id), standIns.get(id)]
      if (row) standIns.set(id, { row, reason: other?.reason ?? reason, isSure: isSure || other?.isSure === true })
    }
    const own = knownAs.get(hash)
    return [hash, { comparableId: own?.isComparable ? own.id : null, folder: own?.folder ?? null, standIns: [...standIns.values()] }]
  }))
}

/** Which of some sounds no file can be found of now, by a look at the disk: the library knows those of a drive that is away as well. */
export async function notThere(db: Database, config: StudioConfig, hashes: readonly string[]): Promise<string[]> {
  await expectSounds(db, hashes)
  const found = await Promise.all(hashes.map(hash => locateSound(db, config, hash)))
  return hashes.filter((_, i) => found[i] === undefined)
}

async function thatAreThere(db: Database, config: StudioConfig, ids: readonly number[]): Promise<SoundRow[]> {
  const rows = await soundRows(db, ids)
  const away = new Set(await notThere(db, config, rows.map(row => row.hash)))
  return rows.filter(row => !away.has(row.hash))
}
