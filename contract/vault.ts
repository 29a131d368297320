import { presetTypeSchema, type KitFile, type PresetType } from '../core/formats/package/kitFile'
import { z } from 'zod'
import { patternDocumentSchema } from '../core/groove/document'
import { kitDocumentSchema } from '../core/kit/migrate'
import { NAME_LENGTHS } from '../core/nameLengths'
import { HEARD } from './bounce'
import { get, post, remove } from './endpoint'
import { idSchema, nameSchema } from './ids'
import type { JobView } from './jobs'
import type { KitView } from './kits'

/** What an import gives back: the preset, or the name that is taken, so that the user can say what to do. */
export type Imported =
  | { readonly state: 'imported', readonly presetId: string, readonly name: string, readonly revision: number }
  | { readonly state: 'name-taken', readonly name: string, readonly archive: string }

export interface PresetView {
  readonly id: string
  readonly name: string
  readonly type: PresetType
  readonly folder: string
  readonly revision: number
  readonly revisions: number
  readonly storedAt: string
  readonly pads: number
  readonly samples: number
  readonly bytes: number
  readonly problem: string | null
  /** The pattern that was stored with it. */
  readonly patternId: string | null
}

export interface BinEntry {
  /** Name of its folder in the bin. */
  readonly entry: string
  readonly name: string
  readonly revisions: number
  readonly deletedAt: string
}

export interface VaultView {
  readonly presets: readonly PresetView[]
  /** Files and folders in the vault that are no presets. */
  readonly others: number
  readonly path: string
  readonly inBin: number
}

export interface FileState {
  readonly size: number
  readonly modifiedMs: number
}

/** One revision as it lies on disk. */
export interface RevisionOnDisk {
  readonly number: number
  readonly storedAt: Date
  readonly pads: number
  readonly samples: number
  readonly bytes: number
  readonly file: KitFile | null
  /** Size and time of each file of the payload, by its path below the bag. */
  readonly states: ReadonlyMap<string, FileState>
  readonly problem: string | null
}

/** A preset with one of its revisions. */
export interface PresetDetail {
  readonly id: string
  readonly name: string
  readonly folder: string
  readonly numbers: readonly number[]
  readonly revision: {
    readonly number: number
    readonly storedAt: string
    readonly pads: number
    readonly samples: number
    readonly bytes: number
    /** Null where it cannot be read, which `problem` explains. */
    readonly file: KitFile | null
    readonly problem: string | null
  }
}

const presetNameSchema = z.string().trim().min(1, 'A preset needs a name.').max(NAME_LENGTHS.preset)

const storeSchema = z.object({
  /** The kit at work that is stored; null for what none is. */
  kitId: z.uuid().nullable(),
  type: presetTypeSchema.default('kit'),
  kit: kitDocumentSchema,
  name: presetNameSchema,
  /** The preset that gets a new revision; without it, a new preset is made. */
  presetId: z.string().nullable(),
  pattern: z.object({ id: z.string().min(1).max(80), document: patternDocumentSchema }).optional(),
  /** Whether mutes and solos that were left on count in its preview. */
  heard: z.enum(HEARD).default('as heard'),
})

const params = { id: nameSchema }
/** The latest where none is named. */
const query = z.object({ revision: idSchema.optional() })

export const vaultRoutes = {
  list: get('/api/vault', 'Presets of the vault.').answers<VaultView>(),
  store: post('/api/vault/store', 'Stores a kit with copies of its samples.', { body: storeSchema }).answers<JobView<'store'>>(),
  read: get('/api/vault/[id]', 'A preset with one of its revisions.', { params, query }).answers<PresetDetail>(),
  open: post('/api/vault/[id]/open', 'Opens a preset as a kit at work; the preset stays as it is until the kit is stored again.', { params, query }).answers<KitView>(),
  rename: post('/api/vault/[id]/rename', 'Renames a preset.', { params, body: z.object({ name: presetNameSchema }) }).answers<{ readonly name: string }>(),
  duplicate: post('/api/vault/[id]/duplicate', 'Stores the latest revision once more under another name.', { params, body: z.object({ name: presetNameSchema }) }).answers<JobView<'store'>>(),
  remove: remove('/api/vault/[id]', 'Moves a preset to the bin.', { params }).answers<{ readonly deleted: boolean }>(),
  package: get('/api/vault/[id]/package', 'A preset as a kit package.', { params }).sends(),
  /** `revision` keeps the browser from playing the preview of an earlier one. */
  preview: get('/api/vault/[id]/preview', 'The preview of a preset, as WAVE.', { params, query }).sends(),
  bin: get('/api/vault/bin', 'Presets in the bin.').answers<readonly BinEntry[]>(),
  restore: post('/api/vault/bin/restore', 'Takes a preset out of the bin.', { body: z.object({ entry: z.string().min(1).max(255) }) }).answers<{ readonly name: string }>(),
  emptyBin: post('/api/vault/bin/empty', 'Deletes what is in the bin.').answers<{ readonly deleted: number }>(),
  import: post('/api/vault/import', 'Takes in a kit package.', { body: 'bytes' }).answers<JobView<'import'>>(),
  importAs: post('/api/vault/import-as', 'Settles what is done with a package whose name is taken.', { body: z.object({ archive: z.string().max(4096), onConflict: z.enum(['revision', 'rename', 'give-up']) }) }).answers<JobView<'import'> | null>(),
}
