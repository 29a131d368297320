import type { KitFile, PresetType } from '../core/formats/package/kitFile'

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
