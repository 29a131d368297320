import { sourceRoutes } from '../../../../contract/sources'
import { removeSource } from '../../../library/sources'
import { route } from '../../../studio/route'

export default route(sourceRoutes.remove, async ({ db, config, events, watch }, { params, query }) => {
  await removeSource(db, config, params.id, query.forget === 'yes')
  events.send({ type: 'library' })
  await watch.arm()
  return { removed: true }
})
