import { readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { demoPresets, type DemoPreset } from '../../demo/presets'
import { writeDemo } from '../../demo/write'
import { knownSound, type KnownSound } from '../../core/kit/parts'
import { foreignJob } from '../fit/fitJobs'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { scanSource } from '../library/scan'
import { listSounds } from '../library/sourceSounds'
import { addFolder } from '../library/sources'
import { readVault } from '../vault/read'
import { storeJob } from '../vault/storeJob'
import type { DemoResult, Stored } from '../../contract/jobs'
import { demoPresetIds, writeDemoPresetIds } from './presetIds'

const ROWS_AT_ONCE = 500

/**
 * Makes the demo's sounds where they are not there yet, brings in its packs, and stores its presets. What is there already is left
 * as it is, so that a job that was cut off goes on where it was.
 *
 * @param folder where the sounds lie, or are to lie
 */
export async function demoJob({ folder }: { readonly folder: string }, context: JobContext): Promise<DemoResult> {
  const { db, config, signal, report } = context
  if (!(await stat(folder).then(() => true, () => false))) {
    const meter = new ProgressMeter('files')
    await writeDemo(folder, (done, total, path) => {
      signal.throwIfAborted()
      meter.setTotal(total)
      if (done > 0) meter.add(1)
      report(meter.progress(path))
    })
  }
  const entries = await readdir(folder, { withFileTypes: true })
  const sounds = new Map<string, readonly KnownSound[]>()
  for (const { name } of entries.filter(entry => entry.isDirectory())) {
    const source = await addFolder(db, config, join(folder, name))
    if (!source.lastScanAt) await scanSource(source.id, context)
    sounds.set(name, await soundsOf(context, source.id))
  }
  const kits = entries.filter(entry => entry.name.endsWith('.sfz')).map(entry => entry.name.slice(0, -4))
  const isStored = new Set((await readVault(config.vaultDir)).presets.map(preset => preset.name))
  const made = await demoPresetIds(config)
  const note = (presetId: string) => writeDemoPresetIds(config, made.add(presetId))
  let stored = 0
  for (const name of kits.filter(kit => !isStored.has(kit))) {
    await note((await foreignJob({ spec: { path: join(folder, `${name}.sfz`), middleC: 'C3' } }, context)).presetId)
    stored++
  }
  for (const preset of demoPresets(sounds).filter(({ name }) => !isStored.has(name))) {
    signal.throwIfAborted()
    await note((await storeOne(preset, context)).presetId)
    stored++
  }
  return { sources: sounds.size, presets: stored }
}

async function soundsOf({ db }: JobContext, sourceId: number): Promise<KnownSound[]> {
  const found: KnownSound[] = []
  for (;;) {
    const { total, shown } = await listSounds(db, sourceId, { limit: ROWS_AT_ONCE, offset: found.length })
    found.push(...shown.map(knownSound))
    if (shown.length === 0 || found.length >= total) return found
  }
}

function storeOne({ name, kit, pattern }: DemoPreset, context: JobContext): Promise<Stored> {
  return storeJob({ kitId: null, type: 'kit', kit, heard: 'all pads', name, presetId: null, pattern }, context)
}
