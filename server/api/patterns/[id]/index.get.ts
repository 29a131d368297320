import { patternRoutes } from '../../../../contract/patterns'
import { readPattern } from '../../../patterns/store'
import { route } from '../../../studio/route'

export default route(patternRoutes.read, ({ db }, { params }) => readPattern(db, params.id))
