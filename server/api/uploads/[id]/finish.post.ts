import { rm } from 'node:fs/promises'
import { z } from 'zod'
import { sameUpload } from '../../../library/sameUpload'
import { addSource } from '../../../library/sources'
import { finishUpload, uploadIdSchema } from '../../../library/uploads'
import { body, param, route } from '../../../studio/route'

/** Ends an upload: its files become a source, or are the one that has the same already. Gives that and the job that reads it. */
export default route(async ({ db, config, jobs }, event) => {
  const id = param(event, 'id', uploadIdSchema)
  const { name } = await body(event, z.object({ name: z.string().trim().min(1).max(200) }))
  const path = await finishUpload(config.uploadsDir, id, name)
  const known = await sameUpload(db, path, name)
  if (known) await rm(path, { recursive: true, force: true })
  const source = known ?? await addSource(db, { name, path, uploaded: true })
  return { sourceId: source.id, job: await jobs.add({ kind: 'scan', sourceId: source.id, title: `Bring in ${name}` }) }
})
