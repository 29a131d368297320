import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { portableName } from '../../core/formats/package/names'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { addSource } from './sources'
import { realDisk } from '../base/disk'
import { unzipInto, type DamagedEntry } from './unzip'

/**
 * Unpacks an uploaded archive into the data folder, once, and makes it a source. The archive is taken away only
 * after that, so that a crash on the way repeats the work and loses nothing. Damaged entries are left out, and listed as unreadable.
 */
export async function unpackArchive(asked: { archive: string, name: string, origin?: string }, context: JobContext): Promise<{ sourceId: number, name: string }> {
  const { config, db, signal, report } = context
  const unpacking = join(config.uploadsDir, `.unpacking-${randomUUID()}`)
  const target = join(config.uploadsDir, `${portableName(asked.name, 'archive')}-${randomUUID().slice(0, 8)}`)
  const meter = new ProgressMeter('files')
  let leftOut: DamagedEntry[] = []
  try {
    await mkdir(unpacking, { recursive: true })
    let before = { entries: 0, bytes: 0 }
    leftOut = await unzipInto(asked.archive, unpacking, {
      signal,
      onEntry: (now) => {
        meter.setTotal(now.total)
        meter.add(now.entries - before.entries, now.bytes - before.bytes)
        before = now
        report(meter.progress(now.path))
      },
    })
    await rename(unpacking, target)
    await realDisk.flushFolder(config.uploadsDir)
  }
  catch (thrown) {
    await rm(unpacking, { recursive: true, force: true })
    await rm(asked.archive, { force: true })
    throw thrown
  }
  const source = await addSource(db, { name: asked.name, path: target, uploaded: true, archive: asked.origin ?? null, leftOut })
  await rm(asked.archive, { force: true })
  return { sourceId: source.id, name: source.name }
}
