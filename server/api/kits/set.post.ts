import { kitRoutes } from '../../../contract/kits'
import { createKits } from '../../kits/drafts'
import { route } from '../../studio/route'

/** Makes several kits at once: all of them, or none. */
export default route(kitRoutes.addSet, async ({ db, events }, { body: { kits } }) => {
  const created = await createKits(db, kits)
  events.send({ type: 'kits' })
  return created
})
