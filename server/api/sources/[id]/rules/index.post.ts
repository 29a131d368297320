import { sourceRoutes } from '../../../../../contract/sources'
import { setRule } from '../../../../library/rules'
import { route } from '../../../../studio/route'

export default route(sourceRoutes.setRule, async ({ db, jobs }, { params: { id }, body: rule }) => {
  await setRule(db, id, rule)
  return jobs.add({ kind: 'redraw', sourceId: id, folder: rule.folder, title: `Apply the rule for ${rule.folder || 'the whole source'}` })
})
