import { listNear } from '../../library/near'
import { route } from '../../studio/route'

export default route(({ db }) => listNear(db))
