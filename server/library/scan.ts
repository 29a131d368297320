import { access } from 'node:fs/promises'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { eq, inArray, sql } from 'drizzle-orm'
import { EmporionError } from '../../core/errors'
import { schema, type Database } from '../db/open'
import { tidyWhenGrown } from '../db/upkeep'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { ScanResult } from '../../contract/jobs'
import { needRoom } from '../base/disk'
import { handOn } from './handOn'
import { knownFiles, type KnownFile } from './knownFiles'
import { analyseBatch, LargeFiles, LatePool } from './pool'
import { recordFiles, refreshSounds, UNKNOWN_BYTES, type AnalysedFile } from './record'
import { allowedPath } from '../base/roots'
import { walk, type WalkedFile, type WalkedProblem } from './walk'
import { counted } from '../../core/wording'

const { files, sources } = schema

const FILES_A_TASK = 8
const FILES_A_WRITE = 128
/** Where reading is slow, what was read is written, and seen, this often all the same. */
const WRITE_EVERY_MS = 700
/** From this size on files are read one at a time. */
const LARGE_BYTES = 32_000_000
const REPORT_EVERY_MS = 200
/** Endings of files left out that are kept by number. */
const MOST_ENDINGS = 20
const CHANGED_EVERY_MS = 1_000

interface Found {
  readonly files: Map<string, WalkedFile>
  readonly problems: WalkedProblem[]
  /** By their endings. */
  readonly others: Map<string, number>
}

/**
 * Scans a source: walks it, reads what is new or changed in worker threads, and writes it batch by batch, so that
 * whatever was read is kept when the scan is cancelled or the process dies; the next scan goes on from there.
 *
 * @throws EmporionError when the source's folder is away, at the start or on the way
 */
export async function scanSource(sourceId: number, context: JobContext): Promise<ScanResult> {
  try {
    return await scanWhole(sourceId, context)
  }
  finally {
    // However it ended: what was read until then is kept and can be seen.
    context.changed('library')
  }
}

async function scanWhole(sourceId: number, context: JobContext): Promise<ScanResult> {
  const { db, config } = context
  const [source] = await db.select().from(sources).where(eq(sources.id, sourceId))
  if (!source) throw new EmporionError('not-found', 'The source was removed before its scan began.')
  const root = await allowedPath(source.path, config.roots)
  // The first time there is sure to be something to read: the threads start while folders are looked through.
  const pool = new LatePool(config.workersDir)
  if (!source.lastScanAt) pool.open(availableParallelism())
  try {
    return await scanFolder(source, root, pool, context)
  }
  finally {
    await pool.close()
  }
}

async function scanFolder({ id: sourceId, leftOut }: typeof sources.$inferSelect, root: string, pool: LatePool, context: JobContext): Promise<ScanResult> {
  const { db } = context
  // At once: the one waits for the database, the other for the disk.
  const [known, found] = await Promise.all([knownFiles(db, sourceId), lookThrough(root, context)])
  // A damaged entry of its archive, unless something lies in its place by now.
  for (const { path, reason } of leftOut) if (!found.files.has(path)) found.problems.push({ type: 'problem', path, reason })
  const fresh: WalkedFile[] = []
  for (const file of found.files.values()) if (isOutdated(known.get(file.path), file)) fresh.push(file)
  const back = await reviveSeen(db, known, found)
  const unreadable = await readFresh(root, sourceId, fresh, found.problems, pool, context)
  const missing = await recordMissing(db, sourceId, known, found)
  if (await handOn(db, sourceId)) context.changed('trays')
  if (fresh.length > 0 || missing > 0) await tidyWhenGrown(db)
  const otherFiles = [...found.others.values()].reduce((sum, count) => sum + count, 0)
  await db.update(sources).set({ lastScanAt: new Date(), otherFiles, otherEndings: commonest(found.others) }).where(eq(sources.id, sourceId))
  return {
    files: found.files.size,
    read: fresh.length - unreadable,
    unchanged: found.files.size - fresh.length,
    unreadable: unreadable + found.problems.length,
    missing,
    back,
    otherFiles,
  }
}

function commonest(counts: ReadonlyMap<string, number>): Record<string, number> {
  return Object.fromEntries([...counts].sort(([, a], [, b]) => b - a).slice(0, MOST_ENDINGS))
}

async function lookThrough(root: string, context: JobContext): Promise<Found> {
  const found: Found = { files: new Map(), problems: [], others: new Map() }
  const meter = new ProgressMeter('files')
  let reported = 0
  for await (const part of walk(root)) {
    context.signal.throwIfAborted()
    for (const entry of part) {
      if (entry.type === 'other') found.others.set(entry.ending, (found.others.get(entry.ending) ?? 0) + 1)
      else if (entry.type === 'problem') found.problems.push(entry)
      else found.files.set(entry.path, entry)
    }
    if (performance.now() - reported > REPORT_EVERY_MS) {
      reported = performance.now()
      context.report({ ...meter.progress(`Looking through folders: ${counted(found.files.size, 'audio file')} so far`), problems: found.problems.length })
    }
  }
  return found
}

/** True for a file that is new or has changed, or whose sound was measured by older methods. */
function isOutdated(before: KnownFile | undefined, now: WalkedFile): boolean {
  return !before || before.size !== now.size || before.modifiedMs !== now.modifiedMs || before.isOutdated
}

async function reviveSeen(db: Database, known: ReadonlyMap<string, KnownFile>, found: Found): Promise<number> {
  const back: KnownFile[] = []
  for (const [path, file] of known) if (file.missing && found.files.has(path)) back.push(file)
  await setMissing(db, back, false)
  return back.length
}

async function recordMissing(db: Database, sourceId: number, known: ReadonlyMap<string, KnownFile>, found: Found): Promise<number> {
  const listed = new Set(found.problems.map(problem => problem.path))
  const gone: KnownFile[] = []
  for (const [path, file] of known) if (!file.missing && !found.files.has(path) && !listed.has(path)) gone.push(file)
  await setMissing(db, gone, true)
  return gone.length - await forgetMoved(db, sourceId)
}

/** A file that is gone while its sound lies elsewhere in the source was moved or renamed: nothing is missing. Gives their number. */
async function forgetMoved(db: Database, sourceId: number): Promise<number> {
  const dropped = await db.execute(sql`
    DELETE FROM files f WHERE f.source_id = ${sourceId} AND f.missing AND EXISTS (
      SELECT FROM files other WHERE other.source_id = ${sourceId} AND other.sound_id = f.sound_id AND NOT other.missing)`)
  return dropped.rowCount ?? 0
}

async function setMissing(db: Database, which: readonly KnownFile[], missing: boolean): Promise<void> {
  for (let i = 0; i < which.length; i += 500) {
    const part = which.slice(i, i + 500)
    await db.transaction(async (tx) => {
      await tx.update(files).set({ missing }).where(inArray(files.id, part.map(file => file.id)))
      await refreshSounds(tx, part.map(file => file.soundId).filter(id => id !== null))
    })
  }
}

/** Reads all fresh files; returns how many could not be read. */
async function readFresh(root: string, sourceId: number, fresh: readonly WalkedFile[], problems: readonly WalkedProblem[], late: LatePool, context: JobContext): Promise<number> {
  const meter = new ProgressMeter('files')
  meter.setTotal(fresh.length)
  await writeProblems(context.db, sourceId, problems)
  if (fresh.length === 0) return 0
  const pool = late.open()
  const large = new LargeFiles(LARGE_BYTES)
  const writer = new BatchWriter(context, sourceId)
  let unreadable = 0
  let next = 0
  let reported = 0
  const lane = async () => {
    while (next < fresh.length) {
      context.signal.throwIfAborted()
      const task = fresh.slice(next, next + FILES_A_TASK)
      next += task.length
      const results = await large.run(task.map(file => file.size), () => analyseBatch(pool, { paths: task.map(file => join(root, file.path)), roots: [root] }, context.signal))
      const analysed = task.map((file, i) => ({ file, analysis: results[i]! }))
      const failed = analysed.filter(({ analysis }) => 'error' in analysis)
      if (failed.length > 0) await refuseIfGone(root, writer)
      unreadable += failed.length
      meter.add(task.length, task.reduce((sum, file) => sum + file.size, 0), failed.length)
      await writer.add(analysed)
      if (performance.now() - reported > REPORT_EVERY_MS) {
        reported = performance.now()
        context.report(meter.progress(task[0]!.path))
      }
    }
  }
  try {
    await Promise.all(Array.from({ length: availableParallelism() + 1 }, lane))
  }
  finally {
    // Cancelled or not, what was read is kept.
    await writer.flush()
  }
  context.report(meter.progress(''))
  return unreadable
}

/** A file that fails because its whole source has gone away is not a broken file. */
async function refuseIfGone(root: string, writer: BatchWriter): Promise<void> {
  try {
    await access(root)
  }
  catch {
    await writer.flush()
    throw new EmporionError('not-found', {
      what: `The folder ${root} went away during the scan.`,
      kept: `${counted(writer.written, 'file')} read until then ${writer.written === 1 ? 'is' : 'are'} kept.`,
      next: 'Connect it again and scan once more: what was read is not read twice.',
    })
  }
}

async function writeProblems(db: Database, sourceId: number, found: readonly WalkedProblem[]): Promise<void> {
  // Shortened paths may be the same, and a batch writes each row once.
  const problems = [...new Map(found.map(problem => [problem.path, problem])).values()]
  for (let i = 0; i < problems.length; i += FILES_A_WRITE) {
    await recordFiles(db, sourceId, problems.slice(i, i + FILES_A_WRITE).map(problem => ({
      file: { type: 'file', path: problem.path, size: UNKNOWN_BYTES, modifiedMs: 0 },
      analysis: { error: problem.reason },
    })))
  }
}

/** Gathers analysed files and writes them in batches, one after the other. */
class BatchWriter {
  written = 0
  private waiting: AnalysedFile[] = []
  private writing: Promise<void> = Promise.resolve()
  private told = 0
  private begun = performance.now()

  constructor(private readonly context: JobContext, private readonly sourceId: number) {}

  async add(analysed: readonly AnalysedFile[]): Promise<void> {
    this.waiting.push(...analysed)
    if (this.waiting.length >= FILES_A_WRITE || performance.now() - this.begun > WRITE_EVERY_MS) await this.flush()
  }

  async flush(): Promise<void> {
    const batch = this.waiting
    this.waiting = []
    this.begun = performance.now()
    this.writing = this.writing.then(() => this.write(batch))
    await this.writing
  }

  private async write(batch: readonly AnalysedFile[]): Promise<void> {
    if (batch.length === 0) return
    await needRoom(this.context.config.dataDir, 'the scan was ended', this.written === 0 ? 'Nothing was changed.' : `${counted(this.written, 'file')} read until then ${this.written === 1 ? 'is kept, and is' : 'are kept, and are'} not read twice.`)
    await recordFiles(this.context.db, this.sourceId, batch)
    this.written += batch.length
    if (performance.now() - this.told > CHANGED_EVERY_MS) {
      this.told = performance.now()
      this.context.changed('arrivals')
    }
  }
}
