import { patternRoutes } from '../../../contract/patterns'
import { createPattern } from '../../patterns/store'
import { route } from '../../studio/route'

export default route(patternRoutes.add, async ({ db, events }, { body: { pattern, ...details } }) => {
  const created = await createPattern(db, pattern, details)
  events.send({ type: 'patterns' })
  return created
})
