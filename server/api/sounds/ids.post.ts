import { soundRoutes } from '../../../contract/library'
import { route } from '../../studio/route'

/** The ids of stretches of a result: what is chosen, without its rows. */
export default route(soundRoutes.ids, async ({ finder }, { body: { search, stretches } }) => {
  return { ids: await finder.ask({ type: 'ids', search, stretches }) }
})
