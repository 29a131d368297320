import { fitRoutes } from '../../../../../contract/fit'
import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { setResponseHeader } from 'h3'
import { EmporionError } from '../../../../../core/errors'
import { exportsDir } from '../../../../bounce/exports'
import { route } from '../../../../studio/route'
import { sendStreamed } from '../../../../studio/streamed'

/** One of the renderings of a kit before and after. */
export default route(fitRoutes.heard, async ({ config }, { params }, event) => {
  const path = join(exportsDir(config.cacheDir), params.id, `${params.which}.wav`)
  if (!await stat(path).catch(() => undefined)) throw new EmporionError('not-found', { what: 'This rendering is no longer there.', next: 'Make it again.' })
  setResponseHeader(event, 'Content-Type', 'audio/wav')
  return sendStreamed(event, createReadStream(path))
})
