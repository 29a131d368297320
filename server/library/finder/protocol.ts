import type { Nearness } from '../../../core/audio/analysis/nearness'
import type { ErrorCode } from '../../../core/errors'
import type { Facets } from '../../../core/search/catalogue/facets'
import type { FolderCount, Under } from '../../../core/search/catalogue/folders'
import type { FoundBy, Hidden } from '../../../core/search/catalogue/find'
import type { DatabaseAddress } from '../../db/open'
import type { Search } from '../../../contract/searches'

export interface FinderWorkerData {
  readonly address: DatabaseAddress
  readonly cacheDir: string
}

/** What can be asked of the finder. Each says at which state of the library, and of kits and presets, it is asked. */
export type FinderQuestion =
  /** Takes a step towards having everything ready, and writes it down where much has changed; true while more is to do. */
  | { readonly type: 'warm' }
  | { readonly type: 'page', readonly search: Search, readonly offset: number, readonly limit: number }
  | { readonly type: 'facets', readonly search: Search }
  | { readonly type: 'place', readonly search: Search, readonly id: number }
  | { readonly type: 'ids', readonly search: Search, readonly stretches: readonly (readonly [number, number])[] }
  | { readonly type: 'count', readonly search: Search }
  /** Counts what a search finds in each folder directly below a place, or in each source. */
  | { readonly type: 'folders', readonly search: Search, readonly under: Under | undefined }
  /** Keeps the vector of a file that is not in the library, so that others can be found that are like it. */
  | { readonly type: 'drop', readonly bytes: Uint8Array }

/** Which state of the library, of what scans have brought so far, and of kits and presets a question is asked at. */
export interface States {
  readonly library: number
  readonly arrivals: number
  readonly uses: number
}

export type FinderAsk = FinderQuestion & States

export interface FoundPage {
  readonly total: number
  readonly counts: Readonly<Record<FoundBy, number>>
  readonly ids: readonly number[]
  readonly foundBy: readonly FoundBy[]
  readonly nearness: readonly Nearness[] | undefined
}

export interface FinderAnswers {
  readonly warm: boolean
  readonly page: FoundPage
  readonly facets: { readonly facets: Facets, readonly hidden: Hidden }
  readonly place: number
  readonly ids: number[]
  readonly count: number
  readonly folders: readonly FolderCount[]
  readonly drop: string
}

/** A question on its way to the finder's thread, and its answer. */
export interface FinderRequest {
  readonly number: number
  readonly ask: FinderAsk
}

export type FinderReply =
  | { readonly number: number, readonly answer: FinderAnswers[keyof FinderAnswers] }
  | { readonly number: number, readonly code: ErrorCode, readonly message: string }
