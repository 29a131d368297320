import { soundRoutes } from '../../../contract/library'
import { route } from '../../studio/route'

/** Where in a result a sound stands, so that the cursor stays on it while the result changes; -1 when it is not in it. */
export default route(soundRoutes.place, async ({ finder }, { query: { id, ...search } }) => {
  return { index: await finder.ask({ type: 'place', search, id }) }
})
