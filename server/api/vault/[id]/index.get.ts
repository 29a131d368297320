import { vaultRoutes } from '../../../../contract/vault'
import { presetRevision } from '../../../vault/presets'
import { route } from '../../../studio/route'

export default route(vaultRoutes.read, async ({ db, config }, { params, query }) => {
  const { preset, revision, numbers } = await presetRevision(db, config.vaultDir, params.id, query.revision)
  const { number, storedAt, pads, samples, bytes, file, problem } = revision
  return { id: preset.id, name: preset.name, folder: preset.folder, numbers, revision: { number, storedAt: storedAt.toISOString(), pads, samples, bytes, file, problem } }
})
