import { soundRoutes } from '../../../contract/library'
import { route } from '../../studio/route'

export default route(soundRoutes.facets, ({ finder }, { query }) => finder.ask({ type: 'facets', search: query }))
