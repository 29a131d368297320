import { readdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { count, sql } from 'drizzle-orm'
import { FIGURES_VERSION } from '../../core/audio/analysis/figures'
import { READERS_VERSION } from '../../core/audio/decode'
import { PATTERN_SCHEMA_VERSION } from '../../core/groove/document'
import { KIT_SCHEMA_VERSION } from '../../core/kit/document'
import type { StudioConfig } from '../base/config'
import { LOG_NAME, logFolder } from '../base/log'
import { schema, type Database } from '../db/open'

const MOST_LINES = 2000

/** Lines of a stack that are ours or Node's, without the folders that they lie in. */
const FRAME = /^ {4}at (?:(?<what>[\w.<>[\] ]+) \()?(?:file:\/\/)?(?:[^()]*\/)?(?<place>[\w.-]+\.[cm]?[jt]s:\d+:\d+)\)?$/

/** One line of the log as a report shows it, without anything that may hold the name of a file, folder, sound or kit. */
export function withoutNames(line: string): Readonly<Record<string, unknown>> | undefined {
  let read: Readonly<Record<string, unknown>>
  try {
    read = JSON.parse(line) as Readonly<Record<string, unknown>>
  }
  catch {
    return undefined
  }
  const { err, ...rest } = read
  if (typeof err !== 'object' || err === null) return rest
  const { type, code, stack } = err as { readonly type?: unknown, readonly code?: unknown, readonly stack?: unknown }
  const frames = String(stack ?? '').split('\n').flatMap((text) => {
    const frame = FRAME.exec(text)?.groups
    return frame ? [`${frame.what ?? ''} ${frame.place}`.trim()] : []
  })
  return { ...rest, err: { type, code, frames } }
}

/** The last lines of the log, the oldest first. */
async function lastLines(dataDir: string): Promise<string[]> {
  const folder = logFolder(dataDir)
  const names = await readdir(folder).catch(() => [])
  const older = names.filter(name => name !== LOG_NAME).sort()
  const lines: string[] = []
  for (const name of [...older, LOG_NAME]) lines.push(...(await readFile(join(folder, name), 'utf8').catch(() => '')).split('\n').filter(Boolean))
  return lines.slice(-MOST_LINES)
}

/** What whoever helps needs to know: versions, counts and the log, without names. */
export async function reportOf(db: Database, config: StudioConfig, now: Date) {
  const counts = Object.fromEntries(await Promise.all(Object.entries({
    sources: schema.sources, files: schema.files, sounds: schema.sounds, kits: schema.kits, patterns: schema.patterns, presets: schema.presets, trays: schema.trays,
  }).map(async ([name, table]) => [name, (await db.select({ count: count() }).from(table))[0]!.count] as const)))
  const jobs = await db.select({ kind: sql<string>`${schema.jobs.request}->>'kind'`, state: schema.jobs.state, count: count() }).from(schema.jobs).groupBy(sql`1`, schema.jobs.state)
  const { version } = JSON.parse(await readFile(join(config.rootDir, 'package.json'), 'utf8')) as { version: string }
  return {
    made: now.toISOString(),
    versions: { emporion: version, node: process.versions.node, platform: process.platform, arch: process.arch, kit: KIT_SCHEMA_VERSION, pattern: PATTERN_SCHEMA_VERSION, figures: FIGURES_VERSION, readers: READERS_VERSION },
    database: config.databaseUrl === undefined ? 'own' : 'a server',
    counts,
    jobs,
    log: (await lastLines(config.dataDir)).map(withoutNames).filter(line => line !== undefined),
  }
}
