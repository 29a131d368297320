import { z } from 'zod'
import { folderForCopies } from '../../../library/copies'
import { body, idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, config, jobs }, event) => {
  const trayId = param(event, 'id', idSchema)
  const { path } = await body(event, z.object({ path: z.string().min(1).max(4096) }))
  const folder = await folderForCopies(db, config, path)
  return jobs.add({ kind: 'copy', trayId, folder, title: `Copy the tray into ${folder}` })
})
