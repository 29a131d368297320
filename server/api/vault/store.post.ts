import { vaultRoutes } from '../../../contract/vault'
import { route } from '../../studio/route'

export default route(vaultRoutes.store, async ({ jobs }, { body: asked }) => {
  return jobs.add({ kind: 'store', ...asked })
})
