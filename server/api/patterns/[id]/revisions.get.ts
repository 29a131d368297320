import { patternRoutes } from '../../../../contract/patterns'
import { listRevisions } from '../../../patterns/store'
import { route } from '../../../studio/route'

export default route(patternRoutes.revisions, ({ db }, { params }) => listRevisions(db, params.id))
