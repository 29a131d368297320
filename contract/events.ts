import { z } from 'zod'
import { jobViewSchema } from './jobs'

/** What the page is sent without asking. `from` is the tab that made the change. */
export const eventSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('job'), job: jobViewSchema }),
  /** `isArriving` while a scan goes on: there is more, and it may be seen a moment later. */
  z.object({ type: z.literal('library'), isArriving: z.boolean().optional() }),
  z.object({ type: z.literal('vault') }),
  z.object({ type: z.literal('tray'), trayId: z.int(), from: z.string() }),
  z.object({ type: z.literal('trays') }),
  z.object({ type: z.literal('searches') }),
  z.object({ type: z.literal('kits') }),
  z.object({ type: z.literal('patterns') }),
  z.object({ type: z.literal('pattern'), patternId: z.string(), revision: z.int(), from: z.string() }),
  /** `usesOthers` where it has other sounds than before. */
  z.object({ type: z.literal('kit'), kitId: z.string(), revision: z.int(), from: z.string(), usesOthers: z.boolean() }),
]).readonly()

export type StudioEvent = z.infer<typeof eventSchema>
