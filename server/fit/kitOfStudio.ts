import { EmporionError } from '../../core/errors'
import { parseKit } from '../../core/kit/migrate'
import type { Database } from '../db/open'
import { locateSound } from '../library/locate'
import type { StudioConfig } from '../base/config'
import { presetRevision } from '../vault/presets'
import type { LoadedKit } from './loadedKit'
import type { KitToFit } from '../../contract/fit'

/** A kit of the studio, ready to be fitted: a preset with its own samples, or a kit with those of the library. */
export async function kitOfStudio(asked: KitToFit, db: Database, config: StudioConfig): Promise<LoadedKit> {
  const nothing = { remarks: [], lost: 0, missing: [], close: () => Promise.resolve() }
  if ('kit' in asked) return { kit: parseKit(asked.kit), locate: async id => (await locateSound(db, config, id))?.path, ...nothing }
  const { preset, revision } = await presetRevision(db, config.vaultDir, asked.presetId, asked.revision)
  const { file } = revision
  if (!file) throw new EmporionError('unreadable', { what: `"${preset.name}" cannot be read: ${revision.problem}`, kept: 'Its files are unharmed.', next: 'Choose an earlier revision.' })
  return { kit: { ...file.kit, name: preset.name }, locate: async id => (await locateSound(db, config, id))?.path, ...nothing }
}
