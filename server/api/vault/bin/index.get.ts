import { route } from '../../../studio/route'
import { listBin } from '../../../vault/presets'

export default route(({ config }) => listBin(config.vaultDir))
