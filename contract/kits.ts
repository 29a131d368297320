import type { Kit } from '../core/kit/document'
import { z } from 'zod'
import { differenceSchema } from '../core/document/difference'
import { kitDocumentSchema } from '../core/kit/migrate'
import { get, post, put, remove } from './endpoint'

/** A kit at work, with the revision that the next edit must build on. */
export interface KitView {
  readonly id: string
  readonly kit: Kit
  readonly revision: number
  readonly presetId: string | null
  readonly presetRevision: number | null
  /** The pattern that was last played on it. */
  readonly patternId: string | null
  readonly updatedAt: string
  /** Version of its document where a newer Emporion wrote it: it can be looked at and played, but not changed. */
  readonly writtenBy: number | null
}

/** A kit as a list shows it. */
export interface KitSummary {
  readonly id: string
  readonly name: string
  /** Its name, with a number where another open kit has the same. */
  readonly label: string
  readonly pads: number
  readonly updatedAt: string
}

const MOST_AT_ONCE = 64
const params = { id: z.uuid() }

export const kitRoutes = {
  list: get('/api/kits', 'Kits at work.').answers<readonly KitSummary[]>(),
  add: post('/api/kits', 'Makes a kit: an empty one, or the one given.', { body: z.object({ kit: kitDocumentSchema.optional() }) }).answers<KitView>(),
  addSet: post('/api/kits/set', 'Makes several kits at once: all of them, or none.', { body: z.object({ kits: z.array(kitDocumentSchema).min(1).max(MOST_AT_ONCE).readonly() }) }).answers<readonly KitView[]>(),
  read: get('/api/kits/[id]', 'A kit at work, whole.', { params }).answers<KitView>(),
  /** `from`: the tab that changes it. */
  save: put('/api/kits/[id]', 'Saves a kit, or what has changed of it, on the revision that it builds on.', { params, body: z.object({ kit: kitDocumentSchema.optional(), difference: differenceSchema.optional(), baseRevision: z.int().min(1), from: z.string() }).refine(({ kit, difference }) => kit !== undefined || difference !== undefined, 'Nothing to save was given.') }).answers<{ readonly revision: number }>(),
  setPattern: put('/api/kits/[id]/pattern', 'Remembers which pattern was last played on a kit.', { params, body: z.object({ patternId: z.string().max(80).nullable() }) }).answers<{ readonly set: boolean }>(),
  remove: remove('/api/kits/[id]', 'Deletes a kit at work; presets stay.', { params }).answers<{ readonly deleted: boolean }>(),
}
