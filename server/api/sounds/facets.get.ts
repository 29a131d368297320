import { searchSchema } from '../../library/search'
import { query, route } from '../../studio/route'

export default route(({ finder }, event) => finder.ask({ type: 'facets', search: query(event, searchSchema) }))
