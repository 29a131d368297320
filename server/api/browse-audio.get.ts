import { folderRoutes } from '../../contract/sources'
import { setResponseHeaders } from 'h3'
import { AUDIO_NAME } from '../../core/audio/extensions'
import { EmporionError } from '../../core/errors'
import { streamUserFile } from '../base/opener'
import { route } from '../studio/route'
import { sendStreamed } from '../studio/streamed'

/** An audio file that is not in the library yet, so that it can be heard before it is brought in. */
export default route(folderRoutes.audio, async ({ config }, { query: { path } }, event) => {
  if (!AUDIO_NAME.test(path)) throw new EmporionError('invalid', { what: `"${path}" is no audio file by its name.`, next: 'Choose one that is.' })
  const { stream, size } = await streamUserFile(path, config.roots)
  setResponseHeaders(event, { 'Content-Type': 'application/octet-stream', 'Content-Length': size, 'Cache-Control': 'no-store' })
  return sendStreamed(event, stream)
})
