import { kitRoutes } from '../../../../contract/kits'
import { saveDifference, saveKit } from '../../../kits/drafts'
import { route } from '../../../studio/route'

export default route(kitRoutes.save, async ({ db, events }, { params: { id }, body: { kit, difference, baseRevision, from } }) => {
  const { revision, usesOthers } = difference ? await saveDifference(db, id, difference, baseRevision) : await saveKit(db, id, kit!, baseRevision)
  events.send({ type: 'kit', kitId: id, revision, from, usesOthers })
  return { revision }
})
