import { readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { and, asc, eq } from 'drizzle-orm'
import { schema, type Database } from '../db/open'
import { hashFile } from '../base/hash'

const { sources } = schema

type SourceRow = typeof sources.$inferSelect

/** The source that holds the same files under the same name, byte for byte: what is dropped again is not kept twice. */
export async function sameUpload(db: Database, folder: string, name: string): Promise<SourceRow | undefined> {
  const known = await db.select().from(sources).where(and(eq(sources.name, name), eq(sources.uploaded, true))).orderBy(asc(sources.id))
  for (const source of known) if (source.path !== folder && await sameFiles(folder, source.path)) return source
  return undefined
}

async function sameFiles(one: string, other: string): Promise<boolean> {
  const [sizes, others] = await Promise.all([sizesBelow(one), sizesBelow(other)])
  if (sizes.size !== others.size || [...sizes].some(([path, size]) => others.get(path) !== size)) return false
  for (const path of sizes.keys()) {
    const [own, known] = await Promise.all([hashFile(join(one, path), [one]), hashFile(join(other, path), [other])])
    if (own.sha256 !== known.sha256) return false
  }
  return true
}

async function sizesBelow(folder: string): Promise<Map<string, number>> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => [])
  const files = entries.filter(entry => entry.isFile()).map(entry => join(entry.parentPath, entry.name))
  return new Map(await Promise.all(files.map(async file => [file.slice(folder.length + 1), (await stat(file)).size] as const)))
}
