import { listSources } from '../../library/sources'
import { route } from '../../studio/route'

export default route(({ db }) => listSources(db))
