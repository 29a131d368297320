import { uploadRoutes } from '../../../../contract/sources'
import { rm } from 'node:fs/promises'
import { sameUpload } from '../../../library/sameUpload'
import { addSource } from '../../../library/sources'
import { finishUpload } from '../../../library/uploads'
import { route } from '../../../studio/route'

/** Ends an upload: its files become a source, or are the one that has the same already. Gives that and the job that reads it. */
export default route(uploadRoutes.finish, async ({ db, config, jobs }, { params: { id }, body: { name } }) => {
  const path = await finishUpload(config.uploadsDir, id, name)
  const known = await sameUpload(db, path, name)
  if (known) await rm(path, { recursive: true, force: true })
  const source = known ?? await addSource(db, { name, path, uploaded: true })
  return { sourceId: source.id, job: await jobs.add({ kind: 'scan', sourceId: source.id, title: `Bring in ${name}` }) }
})
