import { studioRoutes } from '../../contract/studio'
import { route } from '../studio/route'

export default route(studioRoutes.status, ({ config }) => ({ dataDir: config.dataDir, vaultDir: config.vaultDir, roots: config.roots }))
