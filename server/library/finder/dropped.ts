import { measure } from '../../../core/audio/analysis/figures'
import { decodeAudio } from '../../../core/audio/decode'
import { EmporionError } from '../../../core/errors'

/** The vector of a file that was dropped. @throws EmporionError where it can't be read, or is silent */
export async function vectorOfFile(bytes: Uint8Array): Promise<Uint8Array> {
  const audio = await decodeAudio(bytes)
  const { features } = measure(audio.channels, audio.sampleRate)
  if (!features) throw new EmporionError('invalid', { what: 'There is nothing but silence in this file.', next: 'Drop another one.' })
  return features
}
