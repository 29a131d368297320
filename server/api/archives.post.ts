import { z } from 'zod'
import { receiveArchive } from '../library/uploads'
import { query, route } from '../studio/route'

/** Takes in a dropped .zip of samples, unpacks it and brings it in. */
export default route(async ({ config, jobs }, event) => {
  const { name } = query(event, z.object({ name: z.string().trim().min(1).max(200) }))
  const archive = await receiveArchive(config.uploadsDir, event.node.req)
  return jobs.add({ kind: 'unpack', archive, name, title: `Unpack ${name}` })
})
