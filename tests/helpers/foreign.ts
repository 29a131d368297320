import { decodeAudio } from '../../core/audio/decode'
import { EmporionError } from '../../core/errors'
import type { Target } from '../../core/fit/target'
import { readDlsKit } from '../../core/formats/dls/read'
import type { ReadKit } from '../../core/formats/read'
import { memorySource } from '../../core/formats/riff'
import { readSampleSet } from '../../core/formats/samples/read'
import { readSf2Kit } from '../../core/formats/sf2/read'
import { readSfzKit } from '../../core/formats/sfz/read'
import type { WrittenFile } from '../../core/formats/write'
import { identify } from './fit'

/** Reads back what was written for a target. */
export async function readBack(files: readonly WrittenFile[], target: Target): Promise<ReadKit> {
  const [main] = files
  const bytesOf = (path: string) => {
    const found = files.find(file => file.path === path)
    if (!found) throw new EmporionError('not-found', `${path} is not there.`)
    return found.bytes
  }
  switch (target.writes) {
    case 'sfz':
      return readSfzKit({ text: new TextDecoder().decode(main!.bytes), path: main!.path, name: 'Back', decode: path => decodeAudio(bytesOf(path)), identify })
    case 'sf2':
      return readSf2Kit(memorySource(main!.bytes), 0, identify)
    case 'dls-1':
    case 'dls-2':
      return readDlsKit(memorySource(main!.bytes), 0, identify)
    default: {
      const waves = files.filter(file => file.path.endsWith('.wav'))
      const index = files.find(file => file.path.endsWith('.csv'))
      return readSampleSet({
        name: 'Back', middleC: target.middleC, identify,
        files: await Promise.all(waves.map(async file => ({ path: file.path, audio: await decodeAudio(file.bytes) }))),
        ...(index ? { index: new TextDecoder().decode(index.bytes) } : {}),
      })
    }
  }
}
