import { uploadRoutes } from '../../../../contract/sources'
import { receiveFile } from '../../../library/uploads'
import { route } from '../../../studio/route'

export default route(uploadRoutes.file, async ({ config }, { params, query: { path } }, event) => {
  await receiveFile(config.uploadsDir, params.id, path, event.node.req)
  return { received: path }
})
