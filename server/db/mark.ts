/** What a person has set of one sound. */
export interface Mark {
  readonly id: number
  /** Null: left to the witnesses. */
  readonly kind: string | null
  readonly tags: readonly string[]
  readonly favourite: boolean
  readonly note: string
  /** Left out of searches. Not there in steps that an older Emporion wrote. */
  readonly aside?: boolean
}
