import { z } from 'zod'
import { LARGEST_ID } from '../../contract/ids'
import { isKind } from '../../core/search/kinds'

/** Sounds that one edit may touch. */
export const MOST_MARKED = 500_000

export const kindSchema = z.string().refine(isKind, 'This kind is not in the tree.')
export const tagSchema = z.string().trim().min(1).max(60).refine(tag => !/[,;\n"]/.test(tag), 'A tag holds no commas, semicolons, quotation marks or line breaks.')

/** What is to be set of some sounds; what is not named stays. */
export const markPatchSchema = z.object({
  ids: z.array(z.int().min(1).max(LARGEST_ID)).min(1).max(MOST_MARKED),
  /** Null takes a kind set by hand away. */
  kind: kindSchema.nullable().optional(),
  addTags: z.array(tagSchema).max(50).default([]),
  removeTags: z.array(tagSchema).max(50).default([]),
  favourite: z.boolean().optional(),
  note: z.string().max(4000).optional(),
  aside: z.boolean().optional(),
})
export type MarkPatch = z.infer<typeof markPatchSchema>
