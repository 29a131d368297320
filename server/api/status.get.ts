import { route } from '../studio/route'

export default route(({ config }) => ({ dataDir: config.dataDir, vaultDir: config.vaultDir, roots: config.roots }))
