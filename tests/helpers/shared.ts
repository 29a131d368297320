import { existsSync, mkdtempSync, renameSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/**
 * A folder that takes long to make and that tests only read or copy from. The whole run of the tests names a place
 * (`EMPORION_TEST_SHARED`), in which it is made once for all runners; without that, each makes its own.
 */
export async function sharedFolder(name: string, make: (folder: string) => void | Promise<void>): Promise<string> {
  const place = process.env.EMPORION_TEST_SHARED
  const whole = place ? join(place, name) : mkdtempSync(join(tmpdir(), 'emporion-shared-'))
  if (place && existsSync(whole)) return whole
  const fresh = place ? mkdtempSync(join(place, 'making-')) : whole
  await make(fresh)
  if (place) renameSync(fresh, whole)
  return whole
}
