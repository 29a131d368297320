import { findDuplicates, identicalFiles } from '../../library/duplicates'
import { stretchSchema } from '../../../contract/sources'
import { query, route } from '../../studio/route'

export default route(async ({ db, config }, event) => {
  const { limit, offset } = query(event, stretchSchema)
  const found = await findDuplicates(db, limit, offset)
  const shown = await Promise.all(found.shown.map(async group => ({ ...group, identical: await identicalFiles(config, group.files) })))
  return { ...found, shown }
})
