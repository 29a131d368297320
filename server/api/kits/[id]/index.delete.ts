import { kitRoutes } from '../../../../contract/kits'
import { deleteKit } from '../../../kits/drafts'
import { route } from '../../../studio/route'

export default route(kitRoutes.remove, async ({ db, events }, { params }) => {
  await deleteKit(db, params.id)
  events.send({ type: 'kits' })
  return { deleted: true }
})
