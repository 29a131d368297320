import { z } from 'zod'
import { soundIdSchema } from '../core/kit/document'
import type { SoundRow } from './library'
import { NAME_LENGTHS } from '../core/nameLengths'
import { get, patch, post, remove } from './endpoint'
import { idSchema, pathSchema } from './ids'
import type { JobView } from './jobs'

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

const trayNameSchema = z.string().trim().min(1).max(NAME_LENGTHS.tray)
const params = { id: idSchema }
/** `from`: the tab that changes it. */
const from = z.string()

export const trayRoutes = {
  list: get('/api/trays', 'Every tray, the oldest first.').answers<readonly TrayView[]>(),
  add: post('/api/trays', 'Makes a tray.', { body: z.object({ name: trayNameSchema }) }).answers<TrayView>(),
  read: get('/api/trays/[id]', 'The sounds on a tray.', { params }).answers<readonly TrayItem[]>(),
  rename: patch('/api/trays/[id]', 'Renames a tray.', { params, body: z.object({ name: trayNameSchema }) }).answers<{ readonly saved: boolean }>(),
  remove: remove('/api/trays/[id]', 'Removes a tray; its sounds stay in the library.', { params }).answers<{ readonly removed: boolean }>(),
  addSounds: post('/api/trays/[id]/sounds', 'Adds sounds to a tray.', { params, body: z.object({ hashes: trayHashesSchema, from }) }).answers<{ readonly saved: boolean }>(),
  change: patch('/api/trays/[id]/sounds', 'Takes sounds off a tray, notes one, or moves one.', { params, body: z.object({ change: trayChangeSchema, from }) }).answers<{ readonly saved: boolean }>(),
  copy: post('/api/trays/[id]/copies', 'Copies the sounds of a tray into a folder.', { params, body: z.object({ path: pathSchema }) }).answers<JobView<'copy'>>(),
  asText: get('/api/trays/[id]/list.txt', 'The list of a tray, as text.', { params }).sends(),
}
