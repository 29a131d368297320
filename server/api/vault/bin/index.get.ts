import { vaultRoutes } from '../../../../contract/vault'
import { route } from '../../../studio/route'
import { listBin } from '../../../vault/presets'

export default route(vaultRoutes.bin, ({ config }) => listBin(config.vaultDir))
