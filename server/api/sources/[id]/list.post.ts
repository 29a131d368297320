import { sourceRoutes } from '../../../../contract/sources'
import { readList } from '../../../library/list'
import { route } from '../../../studio/route'

export default route(sourceRoutes.readCsv, async ({ db, events }, { params, body: { text } }) => {
  const read = await readList(db, params.id, text)
  events.send({ type: 'library' })
  return read
})
