import { soundRoutes } from '../../../contract/library'
import { soundDetail } from '../../library/detail'
import { route } from '../../studio/route'

export default route(soundRoutes.read, ({ db }, { params }) => soundDetail(db, params.hash))
