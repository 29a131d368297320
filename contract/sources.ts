import { z } from 'zod'
import type { Flag } from '../core/audio/analysis/figures'
import { placeSchema } from './ids'

export interface SourceView {
  readonly id: number
  readonly name: string
  readonly path: string
  readonly uploaded: boolean
  readonly lastScanAt: string | null
  readonly files: number
  readonly bytes: number
  readonly unreadable: number
  readonly missing: number
  readonly otherFiles: number
  readonly otherEndings: Readonly<Record<string, number>>
  /** Neither watched nor measured anew. */
  readonly paused: boolean
  /** Names of sources that hold the same folders, wholly or in part. */
  readonly overlaps: readonly string[]
}

export interface BrowsedFolder {
  readonly path: string
  /** The folder above, where it may be read. */
  readonly parent: string | null
  readonly folders: readonly { readonly name: string, readonly path: string }[]
  /** Audio files directly in this folder; the first of them by name. */
  readonly audioFiles: number
  readonly files: readonly { readonly name: string, readonly path: string }[]
  readonly roots: readonly string[]
}

export interface RuleView {
  readonly id: number
  readonly folder: string
  readonly kind: string | null
  readonly tags: readonly string[]
  /** Files that lie in its folder now. */
  readonly files: number
}

/** What came of reading a list. */
export interface ListRead {
  readonly rows: number
  readonly changed: number
  /** Paths that the source does not hold: how many, and the first of them. */
  readonly unknownPaths: number
  readonly firstUnknown: readonly string[]
  /** Kinds that are not in the tree, as written. */
  readonly unknownKinds: readonly string[]
}

export const MOST_AT_ONCE = 500

/** Which stretch of a list is asked for. */
export const stretchSchema = z.object({ limit: z.coerce.number().int().min(1).max(MOST_AT_ONCE).default(200), offset: placeSchema.default(0) })

export type Stretch = z.infer<typeof stretchSchema>

/** A stretch of a list, and how long the list is. */
export interface Listed<T> {
  readonly total: number
  readonly shown: readonly T[]
}

/** Strokes of one instrument. */
export interface Family {
  readonly family: string
  readonly files: number
  /** The path of one of them, and the number of a sound among them. */
  readonly example: string
  readonly soundId: number
}

/** A file with something about it that is worth knowing before it is used. */
export interface FlaggedFile {
  readonly path: string
  readonly flags: readonly Flag[]
  readonly warnings: readonly string[]
}

/** Files with something about them; and of how many what is reported, those that are damaged among it. A loop is as it should be. */
export interface Flagged extends Listed<FlaggedFile> {
  readonly counts: Readonly<Partial<Record<Flag | 'damaged', number>>>
}

export interface MissingFile {
  readonly path: string
}

export interface UnreadableFile {
  readonly path: string
  readonly reason: string
}

/** What taking the demo away has removed. */
export interface DemoRemoved {
  readonly sources: number
  readonly presets: number
}
