/** What went wrong, as a short stable word that programs can test. */
export type ErrorCode =
  | 'unreadable'
  | 'unsupported'
  | 'invalid'
  | 'limit'
  | 'not-found'
  | 'exists'
  | 'conflict'
  | 'outside'
  | 'refused'
  | 'disk-full'
  | 'cancelled'
  | 'broken'

export interface ErrorParts {
  /** What happened, and to which file, pad or preset. A full sentence. */
  readonly what: string
  /** What was kept or is unharmed. A full sentence, where there is something to say. */
  readonly kept?: string
  /** What to do next. A full sentence. */
  readonly next?: string
}

/** The one error class that is shown to people: its message is made of whole sentences. */
export class EmporionError extends Error {
  readonly code: ErrorCode
  readonly parts: ErrorParts

  constructor(code: ErrorCode, parts: ErrorParts | string) {
    const full: ErrorParts = typeof parts === 'string' ? { what: parts } : parts
    super([full.what, full.kept, full.next].filter(Boolean).join(' '))
    this.name = 'EmporionError'
    this.code = code
    this.parts = full
  }
}

/** The first fault that a schema found, and where: "pads.0.note: Invalid input". Without a full stop, as the end of a sentence. */
export function firstIssueOf(error: { readonly issues: readonly { readonly path: readonly PropertyKey[], readonly message: string }[] }, root = 'document'): string {
  const [issue] = error.issues
  return `${issue?.path.join('.') || root}: ${reasonOf(new Error(issue?.message ?? 'not understood'))}`
}

/** The message of anything thrown as the end of a sentence of ours: without a full stop of its own. */
export function reasonOf(thrown: unknown): string {
  return messageOf(thrown).trim().replace(/[.\s]+$/, '')
}

/** The message of anything thrown, for a log or a person. */
export function messageOf(thrown: unknown): string {
  return thrown instanceof Error ? thrown.message : String(thrown)
}
