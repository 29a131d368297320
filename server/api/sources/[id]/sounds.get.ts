import { stretchSchema } from '../../../../contract/sources'
import { listSounds } from '../../../library/sourceSounds'
import { idSchema, param, query, route } from '../../../studio/route'

export default route(({ db }, event) => listSounds(db, param(event, 'id', idSchema), query(event, stretchSchema)))
