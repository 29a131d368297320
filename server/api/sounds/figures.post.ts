import { soundRoutes } from '../../../contract/library'
import { soundTimes } from '../../library/times'
import { route } from '../../studio/route'

/** When several sounds begin, end and are hit, and how loud they are. Those that the library does not know are left out. */
export default route(soundRoutes.times, async ({ db }, { body: { sounds } }) => {
  return soundTimes(db, sounds)
})
