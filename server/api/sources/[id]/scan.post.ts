import { sourceRoutes } from '../../../../contract/sources'
import { listSources } from '../../../library/sources'
import { EmporionError } from '../../../../core/errors'
import { route } from '../../../studio/route'

export default route(sourceRoutes.scan, async ({ db, jobs }, { params: { id } }) => {
  const source = (await listSources(db)).find(candidate => candidate.id === id)
  if (!source) throw new EmporionError('not-found', 'This source was removed.')
  return jobs.add({ kind: 'scan', sourceId: id, title: `Scan ${source.name}` })
})
