import { libraryRoutes } from '../../../contract/library'
import { route } from '../../studio/route'

export default route(libraryRoutes.compare, ({ jobs }) => jobs.add({ kind: 'compare' }))
