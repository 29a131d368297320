import { rm } from 'node:fs/promises'
import type { StudioConfig } from '../base/config'
import type { Database } from '../db/open'
import type { JobView } from '../../contract/jobs'
import type { DemoRemoved } from '../../contract/sources'
import { liesBelow } from '../base/roots'
import { listSources, removeSource } from '../library/sources'
import { readVault } from '../vault/read'
import { deletePreset } from '../vault/presets'
import { demoPresetIds, writeDemoPresetIds } from './presetIds'

/** Begins to make the demo and to bring it in. */
export function addDemo(jobs: { readonly add: (request: { readonly kind: 'demo', readonly folder: string }) => Promise<JobView<'demo'>> }, config: StudioConfig): Promise<JobView<'demo'>> {
  return jobs.add({ kind: 'demo', folder: config.demoDir })
}

/** How many of the demo's packs are sources now. */
export async function demoState(db: Database, config: StudioConfig): Promise<{ readonly sources: number }> {
  return { sources: (await demoSources(db, config)).length }
}

async function demoSources(db: Database, config: StudioConfig) {
  return (await listSources(db)).filter(source => liesBelow(source.path, config.demoDir))
}

/**
 * Takes the demo away in one step: its sources, its sounds where they were made in the data folder, and its presets, which go to the
 * bin. Presets of which somebody stored a further revision stay.
 */
export async function removeDemo(db: Database, config: StudioConfig): Promise<DemoRemoved> {
  const sources = await demoSources(db, config)
  for (const source of sources) await removeSource(db, config, source.id)
  const ids = await demoPresetIds(config)
  const presets = (await readVault(config.vaultDir)).presets.filter(preset => ids.has(preset.id) && preset.revisions.length === 1)
  for (const preset of presets) await deletePreset(db, config.vaultDir, preset.id)
  await writeDemoPresetIds(config, new Set())
  if (liesBelow(config.demoDir, config.dataDir)) await rm(config.demoDir, { recursive: true, force: true })
  return { sources: sources.length, presets: presets.length }
}
