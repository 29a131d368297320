import { patternRoutes } from '../../../../contract/patterns'
import { setPatternDetails } from '../../../patterns/store'
import { route } from '../../../studio/route'

export default route(patternRoutes.setDetails, async ({ db, events }, { params, body: details }) => {
  await setPatternDetails(db, params.id, details)
  events.send({ type: 'patterns' })
  return { marked: true }
})
