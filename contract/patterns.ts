import { patternDocumentSchema, type Metre, type Pattern, type Swing } from '../core/groove/document'
import { z } from 'zod'
import { differenceSchema } from '../core/document/difference'
import { get, patch, post, put, remove } from './endpoint'
import { nameSchema } from './ids'

/** What a list shows of a pattern. */
export interface PatternSummary {
  readonly name: string
  readonly tempoBpm: number
  readonly metre: Metre
  readonly bars: number
  readonly swing: Swing
  readonly hits: number
  readonly hitsPerBar: number
  /** Kinds of its parts, those with hits. */
  readonly kinds: readonly string[]
}

/** A pattern as a list shows it. */
export interface PatternRow extends PatternSummary {
  readonly id: string
  readonly folder: string
  readonly tags: readonly string[]
  readonly favourite: boolean
  readonly isShipped: boolean
  readonly updatedAt: string
  /** Names of the presets that hold it. */
  readonly usedIn: readonly string[]
}

/** A pattern whole, with the revision that the next edit must build on. */
export interface PatternView {
  readonly id: string
  readonly pattern: Pattern
  readonly revision: number
  readonly isShipped: boolean
  readonly folder: string
}

/** A state of a pattern that was kept. */
export interface PatternRevision {
  readonly number: number
  readonly savedAt: string
  readonly pattern: Pattern
}

const detailsSchema = z.strictObject({
  folder: z.string().trim().max(120).optional(),
  tags: z.array(z.string().trim().min(1).max(60)).max(30).readonly().optional(),
})
const params = { id: nameSchema }

export const patternRoutes = {
  list: get('/api/patterns', 'Every pattern.').answers<readonly PatternRow[]>(),
  add: post('/api/patterns', 'Makes a pattern: an empty one, or the one given.', { body: z.object({ ...detailsSchema.shape, pattern: patternDocumentSchema.optional() }) }).answers<PatternView>(),
  read: get('/api/patterns/[id]', 'A pattern, whole.', { params }).answers<PatternView>(),
  /** `from`: the tab that changes it. */
  save: put('/api/patterns/[id]', 'Saves what has changed of a pattern, on the revision that it builds on.', { params, body: z.object({ difference: differenceSchema, baseRevision: z.int().min(1), from: z.string() }) }).answers<{ readonly revision: number }>(),
  setDetails: patch('/api/patterns/[id]', 'Sets folder, tags or favourite of a pattern.', { params, body: detailsSchema.extend({ favourite: z.boolean().optional() }).refine(details => Object.values(details).some(value => value !== undefined), 'Nothing to change was given.') }).answers<{ readonly marked: boolean }>(),
  remove: remove('/api/patterns/[id]', 'Deletes a pattern.', { params }).answers<{ readonly deleted: boolean }>(),
  midi: get('/api/patterns/[id]/midi', 'A pattern as a Standard MIDI File, by the keys of the General MIDI percussion map.', { params }).sends(),
  revisions: get('/api/patterns/[id]/revisions', 'States of a pattern that were kept.', { params }).answers<readonly PatternRevision[]>(),
  keepRevision: post('/api/patterns/[id]/revisions', 'Keeps the state of a pattern.', { params }).answers<{ readonly number: number }>(),
}
