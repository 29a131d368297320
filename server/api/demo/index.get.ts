import { demoState } from '../../demo/demo'
import { route } from '../../studio/route'

export default route(({ db, config }) => demoState(db, config))
