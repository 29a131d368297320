import { listPatterns } from '../../patterns/store'
import { route } from '../../studio/route'

export default route(({ db }) => listPatterns(db))
