import { z } from 'zod'
import { listSaved } from '../../library/savedSearches'
import { query, route } from '../../studio/route'

export default route(({ db, finder }, event) => listSaved(db, finder, query(event, z.object({ middleC: z.enum(['C3', 'C4']).default('C3') })).middleC))
