import { beginUpload } from '../../library/uploads'
import { route } from '../../studio/route'

export default route(async ({ config }) => ({ id: await beginUpload(config.uploadsDir) }))
