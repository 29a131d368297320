import { searchSchema } from '../../library/searchRequest'
import { query, route } from '../../studio/route'

export default route(({ finder }, event) => finder.ask({ type: 'facets', search: query(event, searchSchema) }))
