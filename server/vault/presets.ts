import { randomUUID } from 'node:crypto'
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { desc, eq } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { groupBy } from '../../core/groupBy'
import { presetExists } from '../../core/kit/words'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import { BIN_FOLDER, DELETING_PREFIX, PRESET_FILE, revisionPath } from './layout'
import { hasCode, realDisk, writeAtomically } from '../base/disk'
import { withVaultNames } from './exclusive'
import { listVault, readPreset, readRevision, readVault } from './read'
import type { BinEntry, PresetView, RevisionOnDisk, VaultView } from '../../contract/vault'
import { freeFolder, sameName } from './store'

const { presetRevisions, presets, presetSounds } = schema

type PresetRow = typeof presets.$inferSelect

/** The presets of the vault, each with its latest revision. */
export async function listPresets(db: Database, vaultDir: string): Promise<VaultView> {
  const [rows, revisions, entries, bin] = await Promise.all([
    db.select().from(presets).orderBy(naturally(presets.name)),
    db.select().from(presetRevisions).orderBy(desc(presetRevisions.number)),
    listVault(vaultDir),
    listBin(vaultDir),
  ])
  const folders = new Set(rows.map(preset => preset.folder))
  const byPreset = groupBy(revisions, revision => revision.presetId)
  return {
    presets: rows.flatMap((preset) => {
      const own = byPreset.get(preset.id) ?? []
      const latest = own[0]
      return latest ? [presetView(preset, latest, own.length)] : []
    }),
    others: entries.filter(entry => !folders.has(entry.name)).length,
    path: vaultDir,
    inBin: bin.length,
  }
}

function presetView(preset: PresetRow, latest: typeof presetRevisions.$inferSelect, revisions: number): PresetView {
  return {
    id: preset.id,
    name: preset.name,
    type: preset.type,
    folder: preset.folder,
    revision: latest.number,
    revisions,
    storedAt: latest.storedAt.toISOString(),
    pads: latest.pads,
    samples: latest.samples,
    bytes: latest.bytes,
    problem: latest.problem,
    patternId: preset.patternId,
  }
}

/** The row of a preset. @throws EmporionError `not-found` */
export async function findPreset(db: Database, id: string): Promise<PresetRow> {
  const [row] = await db.select().from(presets).where(eq(presets.id, id))
  if (!row) throw gone()
  return row
}

function gone(): EmporionError {
  return new EmporionError('not-found', { what: 'This preset is no longer in the vault.', next: 'Look in the bin.' })
}

/** One revision of a preset as it lies on disk, the latest without a number. */
export async function presetRevision(db: Database, vaultDir: string, id: string, number?: number): Promise<{ preset: PresetRow, revision: RevisionOnDisk, numbers: number[] }> {
  const preset = await findPreset(db, id)
  const onDisk = await readPreset(vaultDir, preset.folder)
  const wanted = number ?? preset.latest
  if (!onDisk?.revisions.includes(wanted)) throw new EmporionError('not-found', `Revision ${wanted} of "${preset.name}" is not in the vault.`)
  return { preset, revision: await readRevision(vaultDir, preset.folder, wanted), numbers: [...onDisk.revisions] }
}

/** Gives a preset another name: first in its file, then as its folder's name. A crash between the two does no harm. */
export async function renamePreset(db: Database, vaultDir: string, id: string, newName: string): Promise<void> {
  const name = newName.trim()
  if (name === '') throw new EmporionError('invalid', 'A preset needs a name.')
  const row = await findPreset(db, id)
  await withVaultNames(db, () => renameOnDisk(vaultDir, row, name))
}

async function renameOnDisk(vaultDir: string, row: PresetRow, name: string): Promise<void> {
  const { id } = row
  const { presets: all } = await readVault(vaultDir)
  // Somebody may have renamed or deleted it since.
  const preset = all.find(one => one.id === id)
  if (!preset) throw gone()
  if (all.some(other => other.id !== id && sameName(other.name, name))) {
    throw new EmporionError('exists', { what: presetExists(name), kept: `"${preset.name}" keeps its name.`, next: 'Choose another name.' })
  }
  await writeAtomically(join(vaultDir, preset.folder, PRESET_FILE), `${JSON.stringify({ id: preset.id, name }, null, 2)}\n`)
  const folder = freeFolder(name, all.filter(other => other.id !== id).map(other => other.folder))
  if (folder !== preset.folder) await rename(join(vaultDir, preset.folder), join(vaultDir, folder))
}

/** Moves a preset with all its revisions to the bin. */
export async function deletePreset(db: Database, vaultDir: string, id: string): Promise<void> {
  const preset = await findPreset(db, id)
  const bin = join(vaultDir, BIN_FOLDER)
  await withVaultNames(db, async () => {
    await mkdir(bin, { recursive: true })
    await rename(join(vaultDir, preset.folder), join(bin, freeFolder(preset.folder, await readdir(bin)))).catch((thrown: unknown) => {
      throw hasCode(thrown, 'ENOENT') ? gone() : thrown
    })
  })
  await realDisk.flushFolder(bin)
  await db.delete(presets).where(eq(presets.id, id))
  await db.delete(presetSounds).where(eq(presetSounds.presetId, id))
}

export async function listBin(vaultDir: string): Promise<BinEntry[]> {
  const bin = join(vaultDir, BIN_FOLDER)
  const found: BinEntry[] = []
  for (const entry of await readdir(bin).catch(() => [])) {
    const preset = await readPreset(bin, entry)
    // It may be restored or deleted for good while the bin is listed.
    const about = preset && await stat(join(bin, entry)).catch(() => undefined)
    if (preset && about) found.push({ entry, name: preset.name, revisions: preset.revisions.length, deletedAt: about.ctime.toISOString() })
  }
  return found
}

/** Takes a preset back out of the bin. Its name may have been taken since: then it gets a number behind it. */
export function restorePreset(db: Database, vaultDir: string, entry: string): Promise<string> {
  return withVaultNames(db, () => restoreOnDisk(vaultDir, entry))
}

async function restoreOnDisk(vaultDir: string, entry: string): Promise<string> {
  const bin = join(vaultDir, BIN_FOLDER)
  const known = (await listBin(vaultDir)).find(candidate => candidate.entry === entry)
  if (!known) throw new EmporionError('not-found', 'This preset is no longer in the bin.')
  const { presets: all } = await readVault(vaultDir)
  const preset = await readPreset(bin, entry)
  let name = known.name
  for (let i = 2; all.some(other => sameName(other.name, name)); i++) name = `${known.name} ${i}`
  if (preset && name !== known.name) {
    await writeAtomically(join(bin, entry, PRESET_FILE), `${JSON.stringify({ id: preset.id, name }, null, 2)}\n`)
  }
  await rename(join(bin, entry), join(vaultDir, freeFolder(name, all.map(other => other.folder))))
  return name
}

/**
 * Deletes what lies in the bin, for good. It is out of the bin at once, and whole: what a crash leaves of it is taken away at the next
 * start. Gives the number of presets deleted.
 */
export async function emptyBin(vaultDir: string): Promise<number> {
  const entries = await listBin(vaultDir)
  const going = join(vaultDir, `${DELETING_PREFIX}${randomUUID()}`)
  try {
    await rename(join(vaultDir, BIN_FOLDER), going)
  }
  catch (thrown) {
    if (hasCode(thrown, 'ENOENT')) return 0
    throw thrown
  }
  await rm(going, { recursive: true, force: true })
  return entries.length
}

/** The rendered preview of a preset's latest revision. */
export async function previewPath(db: Database, vaultDir: string, id: string): Promise<string> {
  const preset = await findPreset(db, id)
  return join(revisionPath(vaultDir, preset.folder, preset.latest), 'data', 'preview.wav')
}
