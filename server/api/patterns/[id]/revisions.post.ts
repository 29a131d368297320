import { patternRoutes } from '../../../../contract/patterns'
import { keepRevision } from '../../../patterns/store'
import { route } from '../../../studio/route'

export default route(patternRoutes.keepRevision, async ({ db }, { params }) => ({ number: await keepRevision(db, params.id) }))
