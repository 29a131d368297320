import { readRawBody } from 'h3'
import { EmporionError } from '../../../core/errors'
import { route } from '../../studio/route'

const LARGEST_BYTES = 64_000_000

/** Takes a file that is not to be brought in, so that sounds can be found that are like it. Gives what a search calls it by. */
export default route(async ({ finder }, event) => {
  const bytes = await readRawBody(event, false)
  if (!bytes || bytes.length === 0) throw new EmporionError('invalid', 'Nothing was dropped.')
  if (bytes.length > LARGEST_BYTES) throw new EmporionError('limit', { what: 'This file is too long to be compared by.', next: 'Drop a single sound.' })
  return { like: await finder.ask({ type: 'drop', bytes }) }
})
