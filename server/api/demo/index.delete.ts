import { demoRoutes } from '../../../contract/sources'
import { removeDemo } from '../../demo/demo'
import { route } from '../../studio/route'

/** Takes the demo's sources, sounds and presets away. */
export default route(demoRoutes.remove, async ({ db, config, events }) => {
  const removed = await removeDemo(db, config)
  events.send({ type: 'library' })
  events.send({ type: 'vault' })
  return removed
})
