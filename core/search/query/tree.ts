import type { Flag } from '../../audio/analysis/figures'
import type { NumberCondition } from '../../figures/register'

/** What a sound may be, beside its flags. */
export type State = 'favourite' | 'aside' | 'used' | 'damaged' | 'copied' | 'measured'

/** A range of a figure; an end that is left out is open. */
export interface Range {
  readonly low?: number
  readonly high?: number
  /** True where the end itself does not count. */
  readonly above?: boolean
  readonly below?: boolean
}

/** What is asked of the library, as a tree. Words are folded (`fold` of `tokens.ts`). */
export type Query =
  | { readonly type: 'all', readonly of: readonly Query[] }
  | { readonly type: 'any', readonly of: readonly Query[] }
  | { readonly type: 'not', readonly of: Query }
  | { readonly type: 'word', readonly word: string }
  | { readonly type: 'phrase', readonly words: readonly string[] }
  /** A kind with its subkinds; `none` for sounds of no known kind. */
  | { readonly type: 'kind', readonly path: string }
  | { readonly type: 'tag', readonly tag: string }
  | { readonly type: 'source', readonly name: string }
  | { readonly type: 'pack', readonly name: string }
  /** Folders that follow one another somewhere in a sound's path. */
  | { readonly type: 'folder', readonly folders: readonly string[] }
  | { readonly type: 'number', readonly field: NumberCondition, readonly range: Range }
  | { readonly type: 'flag', readonly flag: Flag }
  | { readonly type: 'state', readonly state: State }
  /** Came to the library at a time or later: in milliseconds of the epoch, or so many days before now. */
  | { readonly type: 'since', readonly atMs: number }
  | { readonly type: 'since', readonly daysAgo: number }
  /** Near to a sound of the library (its number) or to one that was dropped (`drop-` and a number). */
  | { readonly type: 'like', readonly sound: string }
  /** The same recording as a sound of the library, or the strokes and takes of one instrument by their names. */
  | { readonly type: 'same' | 'family', readonly sound: string }

/** Something in the text that can't be understood, and where it stands. */
export interface QueryProblem {
  readonly message: string
  readonly from: number
  readonly to: number
}

/** One of the things that are asked at once: a word, a condition, or a group. */
export interface QueryPart {
  readonly query: Query
  readonly from: number
  readonly to: number
  /** The name of its condition, where it is one. */
  readonly field?: string
  /** True where it is asked that this is not so. */
  readonly isExcluded: boolean
}

/** A text that was read. Where there are problems the tree holds what was understood. */
export interface ReadQuery {
  readonly query: Query
  readonly parts: readonly QueryPart[]
  readonly problems: readonly QueryProblem[]
}

/** Conditions that name a sound. */
export type SoundCondition = 'like' | 'same' | 'family'
