import { decodeAudio, LARGEST_FILE_BYTES } from '../../core/audio/decode'
import { readUserFileSync } from '../base/opener'
import { isSound } from '../library/analyse'
import type { ToIdentify } from '../library/vaultCopies'

/** Whether a file holds a sound. What can't be read holds none. */
export default async function identify({ id, path, roots }: ToIdentify): Promise<boolean> {
  try {
    return isSound(await decodeAudio(readUserFileSync(path, roots, LARGEST_FILE_BYTES)), id)
  }
  catch {
    return false
  }
}
