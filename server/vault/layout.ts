import { join } from 'node:path'

/** The file beside a preset's revisions that names it. */
export const PRESET_FILE = 'preset.json'
export const BIN_FOLDER = '.bin'
export const STORING_PREFIX = '.storing-'
export const IMPORTING_PREFIX = '.importing-'
/** What is being deleted: it has no name any more, however long its files take. */
export const DELETING_PREFIX = '.deleting-'

/** True for the folder of something that was not finished. */
export function isUnfinished(name: string): boolean {
  return [STORING_PREFIX, IMPORTING_PREFIX, DELETING_PREFIX].some(prefix => name.startsWith(prefix))
}

/** Name of the folder of one revision, a bag. */
export function revisionFolder(number: number): string {
  return `revision-${number}`
}

/** The number of a revision's folder, or undefined for any other name. */
export function revisionNumber(folder: string): number | undefined {
  const match = /^revision-([1-9]\d{0,5})$/.exec(folder)
  return match ? Number(match[1]) : undefined
}

/** Where a revision's files lie. */
export function revisionPath(vaultDir: string, presetFolder: string, number: number): string {
  return join(vaultDir, presetFolder, revisionFolder(number))
}
