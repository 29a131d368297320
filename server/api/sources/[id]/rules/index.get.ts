import { sourceRoutes } from '../../../../../contract/sources'
import { listFolders, listRules } from '../../../../library/rules'
import { route } from '../../../../studio/route'

export default route(sourceRoutes.rules, async ({ db }, { params: { id } }) => {
  const [rules, folders] = await Promise.all([listRules(db, id), listFolders(db, id)])
  return { rules, folders }
})
