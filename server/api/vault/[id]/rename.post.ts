import { vaultRoutes } from '../../../../contract/vault'
import { syncVault } from '../../../vault/index'
import { renamePreset } from '../../../vault/presets'
import { route } from '../../../studio/route'

export default route(vaultRoutes.rename, async ({ db, config, events }, { params, body: { name } }) => {
  await renamePreset(db, config.vaultDir, params.id, name)
  await syncVault(db, config.vaultDir)
  events.send({ type: 'vault' })
  return { name }
})
