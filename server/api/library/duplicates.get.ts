import { z } from 'zod'
import { findDuplicates, identicalFiles } from '../../library/duplicates'
import { query, route } from '../../studio/route'

const windowSchema = z.object({ limit: z.coerce.number().int().min(1).max(100).default(50), offset: z.coerce.number().int().min(0).default(0) })

export default route(async ({ db, config }, event) => {
  const { limit, offset } = query(event, windowSchema)
  const found = await findDuplicates(db, limit, offset)
  const shown = await Promise.all(found.shown.map(async group => ({ ...group, identical: await identicalFiles(config, group.files) })))
  return { ...found, shown }
})
