import { listFolders, listRules } from '../../../../library/rules'
import { idSchema, param, route } from '../../../../studio/route'

export default route(async ({ db }, event) => {
  const id = param(event, 'id', idSchema)
  const [rules, folders] = await Promise.all([listRules(db, id), listFolders(db, id)])
  return { rules, folders }
})
