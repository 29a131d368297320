import { z } from 'zod'
import { soundIdSchema } from '../core/kit/document'
import type { SoundRow } from './library'

export const MOST_ON_TRAY = 10_000

export const trayHashesSchema = z.array(soundIdSchema).max(MOST_ON_TRAY)

/** A change of what lies on a tray: it says what is changed alone, so that what somebody else puts there meanwhile stays. */
export const trayChangeSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('remove'), hashes: trayHashesSchema }),
  z.object({ type: z.literal('note'), hash: soundIdSchema, note: z.string().max(400) }),
  /** `before`: the sound that it comes to lie before; null for the end. */
  z.object({ type: z.literal('move'), hash: soundIdSchema, before: soundIdSchema.nullable() }),
])

/** A sound on a tray, with what is noted of it there. */
export interface TrayItem {
  readonly row: SoundRow
  readonly note: string
}

export interface TrayView {
  readonly id: number
  readonly name: string
  readonly count: number
}

export type TrayChange = z.infer<typeof trayChangeSchema>

/** What came of copying a tray. */
export interface Copied {
  readonly folder: string
  readonly copied: number
  readonly bytes: number
  /** Names of sounds of which no file could be found or read. */
  readonly missing: readonly string[]
}
