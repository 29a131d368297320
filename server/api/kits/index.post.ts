import { kitRoutes } from '../../../contract/kits'
import { createKit } from '../../kits/drafts'
import { route } from '../../studio/route'

export default route(kitRoutes.add, async ({ db, events }, { body: { kit } }) => {
  const created = await createKit(db, kit)
  events.send({ type: 'kits' })
  return created
})
