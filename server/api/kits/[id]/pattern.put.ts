import { kitRoutes } from '../../../../contract/kits'
import { setKitPattern } from '../../../kits/drafts'
import { route } from '../../../studio/route'

export default route(kitRoutes.setPattern, async ({ db }, { params, body: { patternId } }) => {
  await setKitPattern(db, params.id, patternId)
  return { set: true }
})
