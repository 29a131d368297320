import { patternRoutes } from '../../../../contract/patterns'
import { savePattern } from '../../../patterns/store'
import { route } from '../../../studio/route'

export default route(patternRoutes.save, async ({ db, events }, { params: { id: patternId }, body: { difference, baseRevision, from } }) => {
  const revision = await savePattern(db, patternId, difference, baseRevision)
  events.send({ type: 'pattern', patternId, revision, from })
  return { revision }
})
