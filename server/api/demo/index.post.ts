import { demoRoutes } from '../../../contract/sources'
import { addDemo } from '../../demo/demo'
import { route } from '../../studio/route'

/** Makes the demo's sounds on the spot, brings them in, and stores its presets. */
export default route(demoRoutes.add, ({ jobs, config }) => addDemo(jobs, config))
