import { favouriteFolderSchema, setFavouriteFolder } from '../../library/favouriteFolders'
import { body, route } from '../../studio/route'

export default route(async ({ db, events }, event) => {
  await setFavouriteFolder(db, await body(event, favouriteFolderSchema))
  events.send({ type: 'searches' })
  return { marked: true }
})
