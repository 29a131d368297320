import { kitRoutes } from '../../../contract/kits'
import { listKits } from '../../kits/drafts'
import { route } from '../../studio/route'

export default route(kitRoutes.list, ({ db }) => listKits(db))
