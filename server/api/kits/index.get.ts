import { listKits } from '../../kits/drafts'
import { route } from '../../studio/route'

export default route(({ db }) => listKits(db))
