import { and, eq } from 'drizzle-orm'
import type { CheckedPresets } from '../../contract/jobs'
import { schema } from '../db/open'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import type { IndexedRevision } from './index'
import { revisionPath } from './layout'
import { readPackage } from './package'

const { presetRevisions, presets, presetSounds } = schema

/** Checks presets that were found in the vault whole, as those that are imported are, and writes down what is wrong with them. */
export async function checkPresets({ revisions }: { readonly revisions: readonly IndexedRevision[] }, context: JobContext): Promise<CheckedPresets> {
  const { config, signal, report, changed } = context
  const meter = new ProgressMeter('presets')
  meter.setTotal(revisions.length)
  let damaged = 0
  for (const revision of revisions) {
    signal.throwIfAborted()
    const [preset] = await context.db.select().from(presets).where(eq(presets.id, revision.presetId))
    if (preset) {
      const { problems } = await readPackage(revisionPath(config.vaultDir, preset.folder, revision.number), { roots: config.roots, signal })
      if (problems.length > 0) {
        damaged++
        await noteProblems(revision, problems, context)
      }
    }
    meter.add(1, 0, damaged)
    report(meter.progress(preset?.name ?? ''))
  }
  if (damaged > 0) changed('vault')
  return { checked: revisions.length, damaged }
}

async function noteProblems({ presetId, number }: IndexedRevision, problems: readonly string[], { db }: JobContext): Promise<void> {
  await db.update(presetRevisions).set({ problem: problems.join(' ') }).where(and(eq(presetRevisions.presetId, presetId), eq(presetRevisions.number, number)))
  // Whatever was thought of its copies, each is looked at when it is asked for.
  await db.update(presetSounds).set({ size: null, modifiedMs: null }).where(and(eq(presetSounds.presetId, presetId), eq(presetSounds.number, number)))
}
