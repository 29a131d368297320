import type { Kit } from '../core/kit/document'

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
