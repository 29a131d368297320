import { sourceRoutes } from '../../../../contract/sources'
import { Readable } from 'node:stream'
import { setResponseHeaders } from 'h3'
import { listAsCsv } from '../../../library/list'
import { listSources } from '../../../library/sources'
import { EmporionError } from '../../../../core/errors'
import { route } from '../../../studio/route'
import { sendStreamed } from '../../../studio/streamed'

export default route(sourceRoutes.asCsv, async ({ db }, { params: { id } }, event) => {
  const source = (await listSources(db)).find(candidate => candidate.id === id)
  if (!source) throw new EmporionError('not-found', 'This source was removed.')
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${source.name}.csv`)}`,
  })
  return sendStreamed(event, Readable.from(listAsCsv(db, id)))
})
