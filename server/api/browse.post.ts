import { z } from 'zod'
import { makeFolder } from '../library/newFolder'
import { body, route } from '../studio/route'

const newFolderSchema = z.object({ path: z.string().min(1).max(4096), name: z.string().trim().min(1).max(200) })

/** Makes a folder to write into. */
export default route(async (studio, event) => makeFolder(await body(event, newFolderSchema), studio))
