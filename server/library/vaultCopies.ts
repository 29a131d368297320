import { join } from 'node:path'
import { and, desc, eq } from 'drizzle-orm'
import type { Piscina } from 'piscina'
import { schema, type Database } from '../db/open'
import { usingUserFile } from '../base/opener'
import { threadPool } from '../jobs/threadPool'
import type { StudioConfig } from '../base/config'

const { presetSounds } = schema

const IDLE_MS = 10_000
const MOST_REFUSED = 10_000

/** What the thread is given that finds out whether a file holds a sound. */
export interface ToIdentify {
  readonly id: string
  readonly path: string
  readonly roots: readonly string[]
}

let identifying: Piscina<ToIdentify, boolean> | undefined
/** Copies that were found to be another sound, as the file was then. Looked at again when it has changed. */
const refused = new Map<string, string>()

/**
 * A copy of a sound in the vault, so that presets play with their sources gone. Each is decoded once, and again when its file has
 * changed: what is not the sound any more is not served for it.
 */
export async function copyInVault(db: Database, config: StudioConfig, hash: string): Promise<{ readonly path: string, readonly size: number } | undefined> {
  const copies = await db.select().from(presetSounds).where(eq(presetSounds.soundHash, hash)).orderBy(desc(presetSounds.number))
  for (const copy of copies) {
    const found = await fileOf(join(config.vaultDir, copy.path), config)
    if (!found) continue
    if (found.size === copy.size && found.modifiedMs === copy.modifiedMs) return found
    if (await holds(hash, found, config)) {
      const { size, modifiedMs } = found
      await db.update(presetSounds).set({ size, modifiedMs }).where(and(eq(presetSounds.soundHash, hash), eq(presetSounds.path, copy.path)))
      return found
    }
  }
  return undefined
}

interface Copy {
  readonly path: string
  readonly size: number
  readonly modifiedMs: number
}

function fileOf(path: string, { roots }: StudioConfig): Promise<Copy | undefined> {
  return usingUserFile(path, roots, ({ path, size, modifiedMs }) => Promise.resolve({ path, size, modifiedMs })).catch(() => undefined)
}

async function holds(hash: string, { path, size, modifiedMs }: Copy, { workersDir, roots }: StudioConfig): Promise<boolean> {
  const state = `${hash} ${size} ${modifiedMs}`
  if (refused.get(path) === state) return false
  identifying ??= threadPool<ToIdentify, boolean>({ filename: join(workersDir, 'identify.worker.mjs'), minThreads: 0, maxThreads: 2, idleTimeout: IDLE_MS })
  if (await identifying.run({ id: hash, path, roots: [...roots] })) return true
  if (refused.size >= MOST_REFUSED) refused.clear()
  refused.set(path, state)
  return false
}
