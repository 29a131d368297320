import { uploadRoutes } from '../../../../contract/sources'
import { abandonUpload } from '../../../library/uploads'
import { route } from '../../../studio/route'

export default route(uploadRoutes.abandon, async ({ config }, { params }) => {
  await abandonUpload(config.uploadsDir, params.id)
  return { abandoned: true }
})
