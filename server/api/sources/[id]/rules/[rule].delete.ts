import { sourceRoutes } from '../../../../../contract/sources'
import { removeRule } from '../../../../library/rules'
import { route } from '../../../../studio/route'

export default route(sourceRoutes.removeRule, async ({ db, jobs }, { params }) => {
  const id = params.id
  const folder = await removeRule(db, id, params.rule)
  return jobs.add({ kind: 'redraw', sourceId: id, folder, title: `Take away the rule for ${folder || 'the whole source'}` })
})
