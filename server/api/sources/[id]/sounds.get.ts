import { sourceRoutes } from '../../../../contract/sources'
import { listSounds } from '../../../library/sourceSounds'
import { route } from '../../../studio/route'

export default route(sourceRoutes.sounds, ({ db }, { params, query }) => listSounds(db, params.id, query))
