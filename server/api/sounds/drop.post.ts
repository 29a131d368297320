import { soundRoutes } from '../../../contract/library'
import { EmporionError } from '../../../core/errors'
import { bodyBytes, route } from '../../studio/route'

const LARGEST_BYTES = 64_000_000

/** Takes a file that is not to be brought in, so that sounds can be found that are like it. Gives what a search calls it by. */
export default route(soundRoutes.drop, async ({ finder }, _asked, event) => {
  const bytes = await bodyBytes(event, LARGEST_BYTES)
  if (bytes.length === 0) throw new EmporionError('invalid', 'Nothing was dropped.')
  return { like: await finder.ask({ type: 'drop', bytes }) }
})
