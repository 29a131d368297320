import { searchSchema } from '../../library/search'
import { query, route } from '../../studio/route'

export default route(({ results }, event) => results.facets(query(event, searchSchema)))
