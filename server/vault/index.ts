import { mkdir, readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, notInArray } from 'drizzle-orm'
import { groupBy } from '../../core/groupBy'
import { schema, type Database } from '../db/open'
import { IMPORTING_PREFIX, revisionFolder, STORING_PREFIX } from './layout'
import { readRevision, readVault, type PresetOnDisk, type RevisionOnDisk } from './read'

const { presetRevisions, presets, presetSounds } = schema

/** Takes away what an interrupted store or import left half-written. */
export async function clearLeftovers(vaultDir: string): Promise<void> {
  await mkdir(vaultDir, { recursive: true })
  for (const name of await readdir(vaultDir)) {
    if (name.startsWith(STORING_PREFIX) || name.startsWith(IMPORTING_PREFIX)) await rm(join(vaultDir, name), { recursive: true, force: true })
  }
}

/**
 * Brings the database's index of the vault in line with the disk, which is the truth: presets stored by hand or
 * under an older database are found, those that are gone are dropped. Reads only revisions not indexed yet, and
 * leaves alone what is indexed as it is.
 */
export async function syncVault(db: Database, vaultDir: string): Promise<void> {
  const { presets: onDisk } = await readVault(vaultDir)
  const ids = onDisk.map(preset => preset.id)
  await db.delete(presets).where(ids.length > 0 ? notInArray(presets.id, ids) : undefined)
  await db.delete(presetSounds).where(ids.length > 0 ? notInArray(presetSounds.presetId, ids) : undefined)
  const known = new Map((await db.select().from(presets)).map(preset => [preset.id, preset]))
  const revisions = groupBy(await db.select({ presetId: presetRevisions.presetId, number: presetRevisions.number }).from(presetRevisions), revision => revision.presetId)
  for (const preset of onDisk) {
    const row = known.get(preset.id)
    const isIndexed = row?.name === preset.name && row.folder === preset.folder && sameNumbers(preset.revisions, revisions.get(preset.id)?.map(revision => revision.number) ?? [])
    if (!isIndexed) await indexPreset(db, vaultDir, preset)
  }
}

function sameNumbers(some: readonly number[], others: readonly number[]): boolean {
  return some.length === others.length && some.every(number => others.includes(number))
}

/** Indexes one preset by its folder; forgets it when the folder is gone. */
export async function indexFolder(db: Database, vaultDir: string, folder: string): Promise<void> {
  const preset = (await readVault(vaultDir)).presets.find(one => one.folder === folder)
  if (preset) await indexPreset(db, vaultDir, preset)
}

async function indexPreset(db: Database, vaultDir: string, preset: PresetOnDisk): Promise<void> {
  const [known] = await db.select().from(presets).where(eq(presets.id, preset.id))
  const indexed = known ? await db.select({ number: presetRevisions.number }).from(presetRevisions).where(eq(presetRevisions.presetId, preset.id)) : []
  const moved = known !== undefined && known.folder !== preset.folder
  const done = new Set(moved ? [] : indexed.map(row => row.number))
  const fresh: RevisionOnDisk[] = []
  for (const number of preset.revisions) {
    if (!done.has(number)) fresh.push(await readRevision(vaultDir, preset.folder, number))
  }
  const latest = preset.revisions.at(-1)!
  const newest = fresh.find(revision => revision.number === latest)
  const type = newest?.file?.type ?? known?.type ?? 'kit'
  const patternId = newest ? newest.file?.pattern?.id ?? null : known?.patternId ?? null
  await db.transaction(async (tx) => {
    const row = { name: preset.name, folder: preset.folder, latest, type, patternId }
    await tx.insert(presets).values({ id: preset.id, ...row }).onConflictDoUpdate({ target: presets.id, set: row })
    await tx.delete(presetRevisions).where(and(eq(presetRevisions.presetId, preset.id), notInArray(presetRevisions.number, [...preset.revisions])))
    await tx.delete(presetSounds).where(and(eq(presetSounds.presetId, preset.id), notInArray(presetSounds.number, [...preset.revisions])))
    for (const revision of fresh) {
      const { number, storedAt, pads, samples, bytes, problem } = revision
      const figures = { storedAt, pads, samples, bytes, problem }
      await tx.insert(presetRevisions).values({ presetId: preset.id, number, ...figures })
        .onConflictDoUpdate({ target: [presetRevisions.presetId, presetRevisions.number], set: figures })
      await tx.delete(presetSounds).where(and(eq(presetSounds.presetId, preset.id), eq(presetSounds.number, number)))
      const copies = Object.entries(revision.file?.samples ?? {}).map(([soundHash, sample]) => ({
        presetId: preset.id, number, soundHash, path: [preset.folder, revisionFolder(number), 'data', sample.path].join('/'),
      }))
      if (copies.length > 0) await tx.insert(presetSounds).values(copies)
    }
  })
}
