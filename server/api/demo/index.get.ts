import { demoRoutes } from '../../../contract/sources'
import { demoState } from '../../demo/demo'
import { route } from '../../studio/route'

export default route(demoRoutes.state, ({ db, config }) => demoState(db, config))
