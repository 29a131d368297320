import { soundRoutes } from '../../../contract/library'
import { basename } from 'node:path'
import { setResponseHeaders } from 'h3'
import { EmporionError } from '../../../core/errors'
import { streamUserFile } from '../../base/opener'
import { locateSound } from '../../library/locate'
import { attachment } from '../../studio/attachment'
import { route } from '../../studio/route'
import { sendStreamed } from '../../studio/streamed'

/** The file of a sound, as it is; under its own name where it is wanted as a file. Its address names its contents, so the browser may keep it for good. */
export default route(soundRoutes.audio, async ({ db, config }, { params: { hash }, query: { as } }, event) => {
  const found = await locateSound(db, config, hash)
  if (!found) {
    throw new EmporionError('not-found', { what: 'The file of this sound is not where it was.', next: 'Connect its drive, or scan its source again.' })
  }
  const { stream, size } = await streamUserFile(found.path, config.roots)
  setResponseHeaders(event, {
    'Content-Type': 'application/octet-stream',
    'Content-Length': size,
    // Its name may change, what it holds does not.
    ...(as === 'file' ? { 'Cache-Control': 'no-store', ...attachment(basename(found.path)) } : { 'Cache-Control': 'private, max-age=31536000, immutable' }),
  })
  return sendStreamed(event, stream)
})
