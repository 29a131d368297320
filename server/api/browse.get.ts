import { z } from 'zod'
import { browse } from '../library/browse'
import { query, route } from '../studio/route'

export default route(({ config }, event) => browse(query(event, z.object({ path: z.string().min(1).max(4096).optional() })).path, config.roots))
