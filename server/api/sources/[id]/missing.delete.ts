import { sourceRoutes } from '../../../../contract/sources'
import { forgetMissing } from '../../../library/sourceLists'
import { route } from '../../../studio/route'

export default route(sourceRoutes.forgetMissing, async ({ db, events }, { params }) => {
  const forgotten = await forgetMissing(db, params.id)
  events.send({ type: 'library' })
  return { forgotten }
})
