import { z } from 'zod'
import { SORTS } from '../../core/search/catalogue/order'
import { idSchema } from '../../contract/ids'

/** What is asked of the library: the text of the search line, where is looked, and in which order. */
export const searchSchema = z.strictObject({
  q: z.string().max(2000).default(''),
  /** The scope: a source, and a folder of it. */
  source: idSchema.optional(),
  folder: z.string().max(4096).optional(),
  sort: z.enum(SORTS).default('name'),
  descending: z.union([z.boolean(), z.stringbool()]).default(false),
  /** What middle C is called in the text. */
  middleC: z.enum(['C3', 'C4']).default('C3'),
})
export type Search = z.infer<typeof searchSchema>
