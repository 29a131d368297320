import { listSources } from '../../../library/sources'
import { EmporionError } from '../../../../core/errors'
import { idSchema, param, route } from '../../../studio/route'

export default route(async ({ db, jobs }, event) => {
  const id = param(event, 'id', idSchema)
  const source = (await listSources(db)).find(candidate => candidate.id === id)
  if (!source) throw new EmporionError('not-found', 'This source was removed.')
  return jobs.add({ kind: 'scan', sourceId: id, title: `Scan ${source.name}` })
})
