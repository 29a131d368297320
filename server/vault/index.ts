import { and, eq, inArray, notInArray, sql } from 'drizzle-orm'
import PQueue from 'p-queue'
import { groupBy } from '../../core/groupBy'
import { schema, type Database } from '../db/open'
import { revisionFolder } from './layout'
import { type PresetOnDisk, readRevision, readVault } from './read'
import type { RevisionOnDisk } from '../../contract/vault'

const { presetRevisions, presets, presetSounds } = schema

/** How many presets are indexed in one transaction, of how many the files are read at once, and how many copies are written by one statement. */
const TOGETHER = 50
const READ_AT_ONCE = 16
const ROWS_TOGETHER = 1000

/**
 * Brings the database's index of the vault in line with the disk, which is the truth: presets stored by hand or
 * under an older database are found, those that are gone are dropped. Reads only revisions not indexed yet, and
 * leaves alone what is indexed as it is.
 *
 * @returns the revisions that were not indexed before: nobody has looked at their samples yet
 */
export async function syncVault(db: Database, vaultDir: string): Promise<IndexedRevision[]> {
  const { presets: onDisk } = await readVault(vaultDir)
  const ids = onDisk.map(preset => preset.id)
  await db.delete(presets).where(ids.length > 0 ? notInArray(presets.id, ids) : undefined)
  await db.delete(presetSounds).where(ids.length > 0 ? notInArray(presetSounds.presetId, ids) : undefined)
  const known = new Map((await db.select().from(presets)).map(preset => [preset.id, preset]))
  const revisions = groupBy(await db.select({ presetId: presetRevisions.presetId, number: presetRevisions.number }).from(presetRevisions), revision => revision.presetId)
  const changed = onDisk.filter((preset) => {
    const row = known.get(preset.id)
    return row?.name !== preset.name || row.folder !== preset.folder || !sameNumbers(preset.revisions, revisions.get(preset.id)?.map(revision => revision.number) ?? [])
  })
  const fresh: IndexedRevision[] = []
  for (let from = 0; from < changed.length; from += TOGETHER) fresh.push(...await indexPresets(db, vaultDir, changed.slice(from, from + TOGETHER), 'found'))
  return fresh
}

/** A revision of a preset, by its number. */
export interface IndexedRevision {
  readonly presetId: string
  readonly number: number
}

/** Whether every sample was just decoded and is what the kit calls it, or was merely found on the disk. */
type Sureness = 'checked' | 'found'

function sameNumbers(some: readonly number[], others: readonly number[]): boolean {
  return some.length === others.length && some.every(number => others.includes(number))
}

/** Indexes one preset by its folder; forgets it when the folder is gone. */
export async function indexFolder(db: Database, vaultDir: string, folder: string, sureness: Sureness): Promise<void> {
  const preset = (await readVault(vaultDir)).presets.find(one => one.folder === folder)
  if (preset) await indexPresets(db, vaultDir, [preset], sureness)
}

type IndexedPreset = typeof presets.$inferSelect

interface Entry {
  readonly preset: PresetOnDisk
  readonly known: IndexedPreset | undefined
  /** Revisions that were not indexed, or lie elsewhere now. */
  readonly fresh: readonly RevisionOnDisk[]
}

async function indexPresets(db: Database, vaultDir: string, group: readonly PresetOnDisk[], sureness: Sureness): Promise<IndexedRevision[]> {
  const ids = group.map(preset => preset.id)
  const known = new Map((await db.select().from(presets).where(inArray(presets.id, ids))).map(row => [row.id, row]))
  const indexed = groupBy(await db.select({ presetId: presetRevisions.presetId, number: presetRevisions.number }).from(presetRevisions).where(inArray(presetRevisions.presetId, ids)), row => row.presetId)
  const entries = await new PQueue({ concurrency: READ_AT_ONCE }).addAll(group.map(preset => async (): Promise<Entry> => {
    const row = known.get(preset.id)
    const done = new Set(row?.folder === preset.folder ? indexed.get(preset.id)?.map(({ number }) => number) : [])
    const fresh: RevisionOnDisk[] = []
    for (const number of preset.revisions) {
      if (!done.has(number)) fresh.push(await readRevision(vaultDir, preset.folder, number))
    }
    return { preset, known: row, fresh }
  }))
  await db.transaction(async (tx) => {
    await tx.insert(presets).values(entries.map(presetRow)).onConflictDoUpdate({
      target: presets.id,
      set: { name: sql`excluded.name`, folder: sql`excluded.folder`, latest: sql`excluded.latest`, type: sql`excluded.type`, patternId: sql`excluded.pattern_id` },
    })
    for (const { preset: { id, revisions }, fresh, known: row } of entries) {
      // What is not on disk any more, and what is read anew.
      const stays = revisions.filter(number => !fresh.some(revision => revision.number === number))
      if (row) await tx.delete(presetRevisions).where(and(eq(presetRevisions.presetId, id), notInArray(presetRevisions.number, stays)))
      if (row) await tx.delete(presetSounds).where(and(eq(presetSounds.presetId, id), notInArray(presetSounds.number, stays)))
    }
    const strangers = entries.filter(({ known: row }) => !row).map(({ preset }) => preset.id)
    // Whoever indexed the same at the same time may have written them already.
    await tx.delete(presetRevisions).where(inArray(presetRevisions.presetId, strangers))
    await tx.delete(presetSounds).where(inArray(presetSounds.presetId, strangers))
    const figures = entries.flatMap(({ preset, fresh }) => fresh.map(({ number, storedAt, pads, samples, bytes, problem }) => ({ presetId: preset.id, number, storedAt, pads, samples, bytes, problem })))
    if (figures.length > 0) await tx.insert(presetRevisions).values(figures)
    const copies = entries.flatMap(entry => copiesOf(entry, sureness))
    for (let from = 0; from < copies.length; from += ROWS_TOGETHER) await tx.insert(presetSounds).values(copies.slice(from, from + ROWS_TOGETHER))
  })
  return entries.flatMap(({ preset, fresh }) => fresh.map(({ number }) => ({ presetId: preset.id, number })))
}

/** What is said of a preset by its latest revision, or as it was where that is not fresh. */
function presetRow({ preset, known, fresh }: Entry): IndexedPreset {
  const { id, name, folder } = preset
  const latest = preset.revisions.at(-1)!
  const newest = fresh.find(revision => revision.number === latest)
  return {
    id, name, folder, latest,
    type: newest?.file?.type ?? known?.type ?? 'kit',
    patternId: (newest ? newest.file?.pattern?.id : known?.patternId) ?? null,
  }
}

function copiesOf({ preset, fresh }: Entry, sureness: Sureness): (typeof presetSounds.$inferInsert)[] {
  return fresh.flatMap(({ number, file, states }) => Object.entries(file?.samples ?? {}).map(([soundHash, sample]) => ({
    presetId: preset.id, number, soundHash, path: [preset.folder, revisionFolder(number), 'data', sample.path].join('/'),
    ...sureness === 'checked' ? states.get(`data/${sample.path}`) : {},
  })))
}
