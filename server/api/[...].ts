import { EmporionError } from '../../core/errors'
import { answering } from '../studio/route'

/** Whatever no other route answers to. */
export default answering((_studio, event) => {
  throw new EmporionError('not-found', `There is nothing at ${event.path.split('?')[0]!.slice(0, 200)}.`)
})
