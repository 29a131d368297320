import { patternRoutes } from '../../../../contract/patterns'
import { deletePattern } from '../../../patterns/store'
import { route } from '../../../studio/route'

export default route(patternRoutes.remove, async ({ db, events }, { params }) => {
  await deletePattern(db, params.id)
  events.send({ type: 'patterns' })
  return { deleted: true }
})
