import { diskError } from '../base/disk'

/** What went wrong with a bounce, in words where it is the disk's fault. */
export function bounceError(thrown: unknown): unknown {
  return diskError(thrown, 'the bounce was not written', 'Nothing half-written was left.')
}
