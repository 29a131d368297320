import { vaultRoutes } from '../../../../contract/vault'
import { route } from '../../../studio/route'
import { emptyBin } from '../../../vault/presets'

export default route(vaultRoutes.emptyBin, async ({ config, events }) => {
  const deleted = await emptyBin(config.vaultDir)
  events.send({ type: 'vault' })
  return { deleted }
})
