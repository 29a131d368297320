import { z } from 'zod'
import { abandonArchive, archiveSchema } from '../../library/uploads'
import { body, route } from '../../studio/route'

/** Says what is to be done with a package whose name is taken. */
export default route(async ({ config, jobs }, event) => {
  const { archive, onConflict } = await body(event, z.object({ archive: archiveSchema(config.uploadsDir), onConflict: z.enum(['revision', 'rename', 'give-up']) }))
  if (onConflict === 'give-up') {
    await abandonArchive(archive)
    return null
  }
  return jobs.add({ kind: 'import', archive, onConflict, title: 'Import a kit package' })
})
