import { vaultRoutes } from '../../../../contract/vault'
import { EmporionError } from '../../../../core/errors'
import { soundsOf } from '../../../../core/kit/document'
import { takeUpKit } from '../../../kits/drafts'
import { expectSounds } from '../../../library/locate'
import { takePresetPattern } from '../../../patterns/store'
import { presetRevision } from '../../../vault/presets'
import { route } from '../../../studio/route'

/** Opens a preset as a kit at work; the preset itself stays as it is until the kit is stored again. */
export default route(vaultRoutes.open, async ({ db, config, events }, { params, query: { revision: number } }) => {
  const { preset, revision } = await presetRevision(db, config.vaultDir, params.id, number)
  if (!revision.file) throw new EmporionError('unreadable', { what: `"${preset.name}" cannot be opened: ${revision.problem}`, kept: 'Its files are unharmed.', next: 'Open an earlier revision.' })
  await expectSounds(db, soundsOf(revision.file.kit).map(sound => sound.id))
  const { pattern } = revision.file
  const patternId = pattern && await takePresetPattern(db, pattern, preset.name)
  if (patternId) events.send({ type: 'patterns' })
  return takeUpKit(db, { ...revision.file.kit, name: preset.name }, { presetId: preset.id, presetRevision: revision.number, patternId })
})
