import { vaultRoutes } from '../../../contract/vault'
import { listPresets } from '../../vault/presets'
import { route } from '../../studio/route'

export default route(vaultRoutes.list, ({ db, config }) => listPresets(db, config.vaultDir))
