import type { Flag } from '../../audio/analysis/figures'
import type { FigureValues } from '../../figures/register'

/** What is to be known of a sound to find it. A figure is null as long as it was not measured, or where there is nothing to be measured. */
export interface CatalogueRow extends FigureValues {
  readonly id: number
  /** False once all its files are gone. */
  readonly isListed: boolean
  readonly sortKey: string
  /** The words of its paths, tags and note, folded, in the order in which they stand. Different texts are parted by `|`. */
  readonly words: string
  /** Where its files lie: the number of the source, and the folder below it: `3/drums/kicks`. */
  readonly folders: readonly string[]
  readonly kind: string | null
  readonly tags: readonly string[]
  readonly flags: readonly Flag[]
  readonly favourite: boolean
  readonly aside: boolean
  readonly isDamaged: boolean
  readonly isMeasured: boolean
  readonly fileCount: number
  readonly addedSeconds: number
}
