import { listMissing } from '../../../library/overview'
import { textFile } from '../../../studio/textFile'
import { idSchema, param, route } from '../../../studio/route'

/** The list of what is missing, as text to keep. */
export default route(async ({ db }, event) => {
  const found = await listMissing(db, param(event, 'id', idSchema))
  return textFile(event, 'missing.txt', found.map(({ path }) => path))
})
