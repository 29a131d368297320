import { abandonUpload, uploadIdSchema } from '../../../library/uploads'
import { param, route } from '../../../studio/route'

export default route(async ({ config }, event) => {
  await abandonUpload(config.uploadsDir, param(event, 'id', uploadIdSchema))
  return { abandoned: true }
})
