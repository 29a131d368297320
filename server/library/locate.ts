import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, desc, eq } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import type { StudioConfig } from '../studio/config'
import { allowedPath } from './roots'

const { files, presetSounds, sounds, sources } = schema

/** A file that holds a sound. */
export interface Located {
  readonly path: string
  readonly size: number
}

/**
 * Finds a file that holds a sound: one of the library that is as it was when it was read, or else the vault's copy,
 * so that presets play with their sources gone.
 */
export async function locateSound(db: Database, config: StudioConfig, hash: string): Promise<Located | undefined> {
  const inLibrary = await db.select({ root: sources.path, path: files.path, size: files.size, modifiedMs: files.modifiedMs })
    .from(files).innerJoin(sounds, eq(files.soundId, sounds.id)).innerJoin(sources, eq(files.sourceId, sources.id))
    .where(and(eq(sounds.hash, hash), eq(files.missing, false))).orderBy(files.id)
  for (const file of inLibrary) {
    const path = await allowedPath(join(file.root, file.path), config.roots).catch(() => undefined)
    const found = path && await stat(path).catch(() => undefined)
    if (path && found && found.size === file.size && found.mtimeMs === file.modifiedMs) return { path, size: found.size }
  }
  const inVault = await db.select({ path: presetSounds.path }).from(presetSounds)
    .where(eq(presetSounds.soundHash, hash)).orderBy(desc(presetSounds.number))
  for (const copy of inVault) {
    const path = join(config.vaultDir, copy.path)
    const found = await stat(path).catch(() => undefined)
    if (found?.isFile()) return { path, size: found.size }
  }
  return undefined
}
