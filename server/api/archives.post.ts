import { uploadRoutes } from '../../contract/sources'
import { receiveArchive } from '../library/uploads'
import { route } from '../studio/route'

/** Takes in a dropped .zip of samples, unpacks it and brings it in. */
export default route(uploadRoutes.archive, async ({ config, jobs }, { query: { name } }, event) => {
  const archive = await receiveArchive(config.uploadsDir, event.node.req)
  return jobs.add({ kind: 'unpack', archive, name })
})
