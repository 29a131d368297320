import { and, eq, isNotNull, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { naturally } from '../db/natural'
import { schema, type Database } from '../db/open'
import type { Rule, RuleView } from '../../contract/sources'

const { files, folderRules, sources } = schema

/** Lays down a rule for a folder of a source; a rule that is there already is replaced. */
export async function setRule(db: Database, sourceId: number, rule: Rule): Promise<void> {
  const [source] = await db.select({ id: sources.id }).from(sources).where(eq(sources.id, sourceId))
  if (!source) throw new EmporionError('not-found', 'This source was removed.')
  await db.insert(folderRules).values({ sourceId, ...rule })
    .onConflictDoUpdate({ target: [folderRules.sourceId, folderRules.folder], set: { kind: rule.kind, tags: rule.tags } })
}

/** Takes a rule away; gives the folder that it held. @throws EmporionError `not-found` */
export async function removeRule(db: Database, sourceId: number, ruleId: number): Promise<string> {
  const [rule] = await db.delete(folderRules).where(and(eq(folderRules.id, ruleId), eq(folderRules.sourceId, sourceId))).returning()
  if (!rule) throw new EmporionError('not-found', 'This rule was taken away already.')
  return rule.folder
}

export async function listRules(db: Database, sourceId: number): Promise<RuleView[]> {
  const inFolder = sql`count(*) filter (where ${folderRules.folder} = '' or starts_with(${files.path}, ${folderRules.folder} || '/'))`
  return db.select({ id: folderRules.id, folder: folderRules.folder, kind: folderRules.kind, tags: folderRules.tags, files: inFolder.mapWith(Number) })
    .from(folderRules).leftJoin(files, and(eq(files.sourceId, folderRules.sourceId), eq(files.missing, false), isNotNull(files.soundId)))
    .where(eq(folderRules.sourceId, sourceId)).groupBy(folderRules.id).orderBy(naturally(folderRules.folder))
}

/** The folders of a source that hold sounds, with their number, and what their sounds are called. */
export async function listFolders(db: Database, sourceId: number): Promise<{ folder: string, files: number }[]> {
  const folder = sql<string>`case when position('/' in ${files.path}) = 0 then '' else regexp_replace(${files.path}, '/[^/]*$', '') end`
  return db.select({ folder, files: sql`count(*)`.mapWith(Number) }).from(files)
    .where(and(eq(files.sourceId, sourceId), eq(files.missing, false), isNotNull(files.soundId))).groupBy(sql`1`)
}
