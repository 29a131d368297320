import { vaultRoutes } from '../../../../contract/vault'
import { route } from '../../../studio/route'
import { syncVault } from '../../../vault/index'
import { restorePreset } from '../../../vault/presets'

export default route(vaultRoutes.restore, async ({ db, config, events }, { body: { entry } }) => {
  const name = await restorePreset(db, config.vaultDir, entry)
  await syncVault(db, config.vaultDir)
  events.send({ type: 'vault' })
  return { name }
})
