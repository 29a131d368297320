import { and, asc, eq, inArray, isNotNull, sql, type SQL } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import { refreshSounds } from './record'

const { files } = schema

const FILES_A_PART = 500

/**
 * Sounds whose file was edited in place, or is read as another sound by better readers, remember what it holds now. What was
 * set of them by hand, and their places on trays, go on to that: not where the former sound lies in another file, for then it
 * was moved and something else took its place; nor onto a sound of which something was set already. The former sound keeps
 * its own, should it come back.
 *
 * @returns true when a tray has changed
 */
export async function handOn(db: Database, sourceId: number): Promise<boolean> {
  const changed = await db.select({ id: files.id }).from(files)
    .where(and(eq(files.sourceId, sourceId), isNotNull(files.formerSoundId), isNotNull(files.soundId), eq(files.missing, false))).orderBy(asc(files.id))
  let traysToo = false
  for (let i = 0; i < changed.length; i += FILES_A_PART) {
    const ids = changed.slice(i, i + FILES_A_PART).map(file => file.id)
    traysToo = await handOnPart(db, ids) || traysToo
  }
  return traysToo
}

function handOnPart(db: Database, fileIds: readonly number[]): Promise<boolean> {
  const heirs = sql`
    SELECT former.id AS former_id, former.hash AS former_hash, heir.id AS heir_id, heir.hash AS heir_hash, f.id AS file_id
    FROM files f JOIN sounds former ON former.id = f.former_sound_id JOIN sounds heir ON heir.id = f.sound_id
    WHERE f.id IN ${fileIds} AND former.file_count = 0`
  return db.transaction(async (tx) => {
    const marked = await tx.execute<{ id: number }>(sql`
      UPDATE sounds s SET hand_kind = x.hand_kind, hand_tags = x.hand_tags, favourite = x.favourite, hand_note = x.hand_note, set_aside = x.set_aside
      FROM (
        SELECT DISTINCT ON (heir_id) heir_id, former.hand_kind, former.hand_tags, former.favourite, former.hand_note, former.set_aside
        FROM (${heirs}) heirs JOIN sounds former ON former.id = former_id
        WHERE ${isMarked(sql`former`)} ORDER BY heir_id, file_id) x
      WHERE s.id = x.heir_id AND NOT ${isMarked(sql`s`)}
      RETURNING s.id`)
    await refreshSounds(tx, marked.rows.map(row => row.id))
    const trays = await tx.execute(sql`
      UPDATE tray_sounds t SET sound_hash = x.heir_hash
      FROM (
        SELECT DISTINCT ON (on_tray.tray_id, heir_hash) on_tray.tray_id, former_hash, heir_hash
        FROM (SELECT DISTINCT ON (former_hash) * FROM (${heirs}) heirs ORDER BY former_hash, file_id) first JOIN tray_sounds on_tray ON on_tray.sound_hash = former_hash
        WHERE NOT EXISTS (SELECT FROM tray_sounds there WHERE there.tray_id = on_tray.tray_id AND there.sound_hash = heir_hash)
        ORDER BY on_tray.tray_id, heir_hash, on_tray.position) x
      WHERE t.tray_id = x.tray_id AND t.sound_hash = x.former_hash`)
    await tx.execute(sql`
      UPDATE sounds s SET became_id = x.sound_id
      FROM (SELECT DISTINCT ON (former_sound_id) former_sound_id, sound_id FROM files WHERE id IN ${fileIds} AND former_sound_id <> sound_id ORDER BY former_sound_id, id) x
      WHERE s.id = x.former_sound_id`)
    await tx.update(files).set({ formerSoundId: null }).where(inArray(files.id, [...fileIds]))
    return (trays.rowCount ?? 0) > 0
  })
}

function isMarked(sound: SQL): SQL {
  return sql`(${sound}.hand_kind IS NOT NULL OR ${sound}.hand_tags <> '{}' OR ${sound}.favourite OR ${sound}.hand_note <> '' OR ${sound}.set_aside)`
}
