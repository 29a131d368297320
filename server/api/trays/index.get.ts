import { listTrays } from '../../library/trays'
import { route } from '../../studio/route'

export default route(({ db }) => listTrays(db))
