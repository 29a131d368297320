import { z } from 'zod'
import { isKind } from '../core/search/kinds'
import { post } from './endpoint'
import { LARGEST_ID } from './ids'
import type { JobView } from './jobs'

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

/** An edit as it was done, undone or redone. */
export interface MarkEdit {
  readonly title: string
  readonly count: number
}

/** What came of setting something by hand: it is done, a job does it, or there was nothing to do, and why. */
export type MarkAnswer = { readonly edit: MarkEdit } | { readonly job: JobView<'mark' | 'unmark'> } | { readonly nothing: string }

export const markRoutes = {
  set: post('/api/marks', 'Sets kind, tags, favourite, note or set aside of sounds: at once, or, for many, by a job.', { body: markPatchSchema }).answers<MarkAnswer>(),
  undo: post('/api/marks/undo', 'Takes the last edit by hand back.').answers<MarkAnswer>(),
  redo: post('/api/marks/redo', 'Does the edit that was taken back again.').answers<MarkAnswer>(),
}
