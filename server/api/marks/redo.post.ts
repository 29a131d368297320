import { redoMarks } from '../../library/marks'
import { route } from '../../studio/route'

export default route(async ({ db, events }) => {
  const edit = await redoMarks(db)
  events.send({ type: 'library' })
  return edit
})
