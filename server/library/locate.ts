import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, eq, inArray, or, sql } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import type { StudioConfig } from '../base/config'
import { allowedPath } from '../base/roots'
import { copyInVault } from './vaultCopies'

const { files, sounds, sources } = schema

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
  const expected = likely.get(hash)
  const still = expected && await asExpected(expected, config)
  if (still) return still
  for (const { hash: _hash, ...file } of await filesOf(db, [hash])) {
    const found = await asExpected(file, config)
    if (found) return found
  }
  return copyInVault(db, config, hash)
}

/** A file as the library knows it. */
interface KnownFile {
  readonly root: string
  readonly path: string
  readonly size: number
  readonly modifiedMs: number
}

/** Where sounds are likely to be asked for next; what is forgotten is looked up again. */
const likely = new Map<string, KnownFile>()
const MOST_LIKELY = 8192

/** Looks up many sounds in one question, since those of a kit that is opened are about to be asked for one after the other. */
export async function expectSounds(db: Database, hashes: readonly string[]): Promise<void> {
  if (likely.size > MOST_LIKELY) likely.clear()
  const unknown = hashes.filter(hash => !likely.has(hash))
  if (unknown.length === 0) return
  for (const { hash, ...file } of await filesOf(db, unknown)) if (!likely.has(hash)) likely.set(hash, file)
}

function filesOf(db: Database, hashes: readonly string[]): Promise<(KnownFile & { hash: string })[]> {
  const asked = [...hashes]
  // By the identity that it has now, or had to an earlier version.
  const hash = sql<string>`CASE WHEN ${inArray(sounds.hash, asked)} THEN ${sounds.hash} ELSE ${sounds.formerHash} END`
  return db.select({ hash, root: sources.path, path: files.path, size: files.size, modifiedMs: files.modifiedMs })
    .from(files).innerJoin(sounds, eq(files.soundId, sounds.id)).innerJoin(sources, eq(files.sourceId, sources.id))
    .where(and(or(inArray(sounds.hash, asked), inArray(sounds.formerHash, asked)), eq(files.missing, false))).orderBy(files.id)
}

/** The file if it is still as it was when it was read. */
async function asExpected(file: KnownFile, config: StudioConfig): Promise<Located | undefined> {
  const path = await allowedPath(join(file.root, file.path), config.roots).catch(() => undefined)
  const found = path === undefined ? undefined : await stat(path).catch(() => undefined)
  return path !== undefined && found?.isFile() && found.size === file.size && found.mtimeMs === file.modifiedMs ? { path, size: found.size } : undefined
}
