import { patternRoutes } from '../../../contract/patterns'
import { listPatterns } from '../../patterns/store'
import { route } from '../../studio/route'

export default route(patternRoutes.list, ({ db }) => listPatterns(db))
