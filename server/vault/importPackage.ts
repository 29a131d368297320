import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { JobContext } from '../jobs/context'
import { ProgressMeter } from '../jobs/meter'
import { unzipInto } from '../library/unzip'
import { withVaultNames } from './exclusive'
import { indexFolder } from './index'
import { IMPORTING_PREFIX, PRESET_FILE, revisionFolder } from './layout'
import { bagWithin, damaged, readWholePackage } from './package'
import { readVault } from './read'
import { freeFolder, sameName } from './store'
import type { Imported } from '../../contract/vault'

/**
 * Brings a kit package (one .zip) into the vault after checking it whole.
 *
 * @throws EmporionError `invalid` when it is no package or differs from what was packed; nothing is taken then
 */
export async function importPackage(asked: { archive: string, onConflict: 'revision' | 'rename' | 'ask' }, context: JobContext): Promise<Imported> {
  const { config, db, signal, report, changed } = context
  const work = join(config.vaultDir, `${IMPORTING_PREFIX}${randomUUID()}`)
  const meter = new ProgressMeter('files')
  try {
    await mkdir(join(work, 'unpacked'), { recursive: true })
    let entries = 0
    const bad = await unzipInto(asked.archive, join(work, 'unpacked'), {
      signal,
      onEntry: (now) => {
        meter.setTotal(now.total)
        meter.add(now.entries - entries)
        entries = now.entries
        report(meter.progress(now.path))
      },
    })
    if (bad.length > 0) throw damaged(bad.map(({ path, reason }) => `${path}: ${reason}`), 'Nothing was imported.')
    const bag = await bagWithin(join(work, 'unpacked'))
    const { kit } = await readWholePackage(bag, 'Nothing was imported.', { roots: config.roots, signal, onSample: (_done, _total, name) => report(meter.progress(name)) })
    signal.throwIfAborted()
    const target = await withVaultNames(db, async () => {
      const { presets } = await readVault(config.vaultDir)
      const taken = presets.find(preset => sameName(preset.name, kit.name))
      if (taken && asked.onConflict === 'ask') return { taken: taken.name }
      return taken && asked.onConflict === 'revision'
        ? asRevision(bag, join(config.vaultDir, taken.folder), taken)
        : asPreset(work, bag, config.vaultDir, freeName(kit.name, presets.map(preset => preset.name)), presets.map(preset => preset.folder))
    })
    if ('taken' in target) return { state: 'name-taken', name: target.taken, archive: asked.archive }
    await rm(asked.archive, { force: true })
    await indexFolder(db, config.vaultDir, target.folder, 'checked')
    changed('vault')
    return { state: 'imported', presetId: target.id, name: target.name, revision: target.revision }
  }
  catch (thrown) {
    await rm(asked.archive, { force: true })
    throw thrown
  }
  finally {
    await rm(work, { recursive: true, force: true })
  }
}

async function asRevision(bag: string, presetPath: string, preset: { id: string, name: string, folder: string, revisions: readonly number[] }) {
  const revision = Math.max(...preset.revisions) + 1
  await rename(bag, join(presetPath, revisionFolder(revision)))
  return { id: preset.id, name: preset.name, folder: preset.folder, revision }
}

async function asPreset(work: string, bag: string, vaultDir: string, name: string, folders: readonly string[]) {
  const id = randomUUID()
  const folder = freeFolder(name, folders)
  const whole = join(work, 'preset')
  await mkdir(whole)
  await writeFile(join(whole, PRESET_FILE), `${JSON.stringify({ id, name }, null, 2)}\n`, { flush: true })
  await rename(bag, join(whole, revisionFolder(1)))
  await rename(whole, join(vaultDir, folder))
  return { id, name, folder, revision: 1 }
}

/** A name that no preset has, with a number behind it where it is taken. */
export function freeName(name: string, taken: readonly string[]): string {
  for (let i = 1; ; i++) {
    const candidate = i === 1 ? name : `${name} ${i}`
    if (!taken.some(other => sameName(other, candidate))) return candidate
  }
}
