import { vaultRoutes } from '../../../../contract/vault'
import { deletePreset } from '../../../vault/presets'
import { route } from '../../../studio/route'

export default route(vaultRoutes.remove, async ({ db, config, events }, { params }) => {
  await deletePreset(db, config.vaultDir, params.id)
  events.send({ type: 'vault' })
  return { deleted: true }
})
