import { z } from 'zod'
import type { SampleMeasure } from '../core/fit/measure'
import type { Target } from '../core/fit/target'
import type { Usage } from '../core/fit/usage'
import { kitDocumentSchema } from '../core/kit/migrate'

/** Forms that a kit can come in. */
export type ForeignFormat = 'SoundFont' | 'DLS' | 'SFZ' | 'sample set' | 'kit package' | 'archive'

/** One of several kits in a file. */
export interface ForeignChoice {
  readonly name: string
  /** `bank:program`, where the format counts so. */
  readonly place: string
}

export interface ForeignListing {
  readonly format: ForeignFormat
  readonly name: string
  /** More than one only in banks and collections. */
  readonly choices: readonly ForeignChoice[]
}

/** The measures of a kit for a target: for each filled pad, by its index, those of its samples. */
export type KitMeasures = Readonly<Record<number, readonly SampleMeasure[]>>

/** A kit to be fitted: a preset of the vault, or a kit as it stands. */
export const kitToFitSchema = z.union([
  z.object({ presetId: z.string().min(1).max(80), revision: z.int().min(1).optional() }),
  z.object({ kit: kitDocumentSchema }),
])

/** Two renderings of the same: as the kit is, and as the target would have it, brought to one loudness. */
export interface HeardFit {
  readonly id: string
  readonly seconds: number
  /** Added to the second, so that both are equally loud. */
  readonly matchedDb: number
  /** Level of the difference of the two, under the first. */
  readonly differenceDb: number
}

export type KitToFit = z.infer<typeof kitToFitSchema>

export interface ReadForeign {
  readonly presetId: string
  readonly name: string
  readonly remarks: readonly string[]
  readonly missing: readonly string[]
}

/** What came of one kit for one target. */
export interface WrittenFit {
  readonly kit: string
  readonly target: string
  readonly folder: string | null
  readonly files: number
  readonly bytes: number
  readonly before: Usage | null
  readonly after: Usage | null
  readonly outcome: string
  readonly missing: readonly string[]
  /** Why nothing was written, in whole sentences. */
  readonly error: string | null
}

export interface WrittenFits {
  readonly folder: string
  readonly items: readonly WrittenFit[]
  /** What a download is called, for those that went into the cache. */
  readonly download: string | null
}

/** A target, and whether it is the user's own. */
export interface TargetView {
  readonly target: Target
  readonly isOwn: boolean
}
