import { z } from 'zod'
import { listFolders } from '../../library/folderTree'
import { searchSchema } from '../../library/searchRequest'
import { query, route } from '../../studio/route'

/** The folders directly below a place, `3/Kicks`, or the sources, with how many sounds of a search each holds. */
export default route(({ finder }, event) => {
  const { under, ...search } = query(event, searchSchema.extend({ under: z.string().max(4200).optional() }))
  return listFolders(finder, search, under)
})
