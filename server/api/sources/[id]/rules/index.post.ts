import { ruleSchema, setRule } from '../../../../library/rules'
import { body, idSchema, param, route } from '../../../../studio/route'

export default route(async ({ db, jobs }, event) => {
  const id = param(event, 'id', idSchema)
  const rule = await body(event, ruleSchema)
  await setRule(db, id, rule)
  return jobs.add({ kind: 'redraw', sourceId: id, folder: rule.folder, title: `Apply the rule for ${rule.folder || 'the whole source'}` })
})
