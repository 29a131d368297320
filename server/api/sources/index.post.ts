import { z } from 'zod'
import { addFolder } from '../../library/sources'
import { body, route } from '../../studio/route'

export default route(async ({ db, config, jobs }, event) => {
  const { path } = await body(event, z.object({ path: z.string().min(1).max(4096) }))
  const source = await addFolder(db, config, path)
  return jobs.add({ kind: 'scan', sourceId: source.id, title: `Bring in ${source.name}` })
})
