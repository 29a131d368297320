import { createHash, randomUUID } from 'node:crypto'

/**
 * Name of what is written beside its place before it is given its name. It tells which data folder's Emporion writes it, so that only
 * that one takes away what it left.
 *
 * @param dataDir null on the command line, which has none
 */
export function workName(dataDir: string | null): string {
  return `${dataDir === null ? '.emporion-' : workPrefix(dataDir)}${randomUUID()}`
}

/** How the names begin that `workName` gives. */
export function workPrefix(dataDir: string): string {
  return `.emporion-${createHash('sha256').update(dataDir).digest('hex').slice(0, 8)}-`
}
