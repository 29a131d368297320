import { uploadRoutes } from '../../../contract/sources'
import { beginUpload } from '../../library/uploads'
import { route } from '../../studio/route'

export default route(uploadRoutes.begin, async ({ config }) => ({ id: await beginUpload(config.uploadsDir) }))
