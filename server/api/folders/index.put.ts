import { favouriteFolderSchema, markFolder } from '../../library/favouriteFolders'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  await markFolder(db, await body(event, favouriteFolderSchema))
  events.send({ type: 'searches' })
  return { marked: true }
})
