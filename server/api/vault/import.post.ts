import { vaultRoutes } from '../../../contract/vault'
import { receiveArchive } from '../../library/uploads'
import { route } from '../../studio/route'

/** Takes in a kit package. What to do when its name is taken is asked for afterwards. */
export default route(vaultRoutes.import, async ({ config, jobs }, _asked, event) => {
  const archive = await receiveArchive(config.uploadsDir, event.node.req)
  return jobs.add({ kind: 'import', archive, onConflict: 'ask' })
})
