import { removeRule } from '../../../../library/rules'
import { idSchema, param, route } from '../../../../studio/route'

export default route(async ({ db, jobs }, event) => {
  const id = param(event, 'id', idSchema)
  const folder = await removeRule(db, id, param(event, 'rule', idSchema))
  return jobs.add({ kind: 'redraw', sourceId: id, folder, title: `Take away the rule for ${folder || 'the whole source'}` })
})
