import { EmporionError } from '../../core/errors'
import { route } from '../studio/route'

/** Whatever no other route answers to. */
export default route((_studio, event) => {
  throw new EmporionError('not-found', `There is nothing at ${event.path.split('?')[0]!.slice(0, 200)}.`)
})
