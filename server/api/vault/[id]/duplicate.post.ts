import { vaultRoutes } from '../../../../contract/vault'
import { EmporionError } from '../../../../core/errors'
import { presetRevision } from '../../../vault/presets'
import { route } from '../../../studio/route'

/** Stores the latest revision once more under another name. */
export default route(vaultRoutes.duplicate, async ({ db, config, jobs }, { params, body: { name } }) => {
  const { preset, revision } = await presetRevision(db, config.vaultDir, params.id)
  if (!revision.file) throw new EmporionError('unreadable', { what: `"${preset.name}" cannot be duplicated: ${revision.problem}`, kept: 'Its files are unharmed.' })
  return jobs.add({ kind: 'store', kitId: null, heard: 'all pads', type: revision.file.type, kit: { ...revision.file.kit, name }, name, presetId: null, pattern: revision.file.pattern, title: `Duplicate ${preset.name}` })
})
