import { undoMarks } from '../../library/marks'
import { route } from '../../studio/route'

export default route(async ({ db, events }) => {
  const edit = await undoMarks(db)
  events.send({ type: 'library' })
  return edit
})
