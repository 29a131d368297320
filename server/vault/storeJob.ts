import { basename, dirname } from 'node:path'
import { eq } from 'drizzle-orm'
import type { OwnPattern, PresetType } from '../../core/formats/package/kitFile'
import { parseKit } from '../../core/kit/migrate'
import { schema } from '../db/open'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { Heard } from '../../contract/bounce'
import type { Stored } from '../../contract/jobs'
import { locateSound } from '../library/locate'
import { realDisk } from '../base/disk'
import { withVaultNames } from './exclusive'
import { indexFolder } from './index'
import { storePreset } from './store'

/** Stores a kit in the vault, indexes it, and notes at the kit what it was stored as. */
export async function storeJob(asked: { kitId: string | null, type: PresetType, kit: unknown, heard: Heard, name: string, presetId: string | null, pattern?: OwnPattern }, context: JobContext): Promise<Stored> {
  const { db, config, signal, report, changed } = context
  const meter = new ProgressMeter('samples')
  const stored = await storePreset({ kit: parseKit(asked.kit), name: asked.name, presetId: asked.presetId, type: asked.type, heard: asked.heard, pattern: asked.pattern }, {
    vaultDir: config.vaultDir,
    disk: realDisk,
    signal,
    locate: async soundId => (await locateSound(db, config, soundId))?.path,
    onSample: (done, total, name, bytes) => {
      meter.setTotal(total)
      meter.add(1, bytes)
      report(meter.progress(name))
    },
    now: new Date(),
    withNames: work => withVaultNames(db, work),
  })
  await indexFolder(db, config.vaultDir, basename(dirname(stored.path)), 'checked')
  if (asked.kitId !== null) await db.update(schema.kits).set({ presetId: stored.presetId, presetRevision: stored.revision }).where(eq(schema.kits.id, asked.kitId))
  changed('vault')
  return stored
}
