import { listPresets } from '../../vault/presets'
import { route } from '../../studio/route'

export default route(({ db, config }) => listPresets(db, config.vaultDir))
