import { decodeAudio } from '../../core/audio/decode'
import { EmporionError } from '../../core/errors'
import type { Target } from '../../core/fit/target'
import { openDls } from '../../core/formats/dls/instruments'
import { readDlsInstrument } from '../../core/formats/dls/read'
import type { ReadKit } from '../../core/formats/read'
import { memorySource } from '../../core/formats/riff'
import { readSampleSet } from '../../core/formats/samples/read'
import { openBank } from '../../core/formats/sf2/bank'
import { readPreset } from '../../core/formats/sf2/read'
import { readSfzKit } from '../../core/formats/sfz/read'
import type { WrittenFile } from '../../core/formats/write'
import { identify } from './fit'

/** Reads a preset of a SoundFont bank in memory. */
export async function readSf2(bytes: Uint8Array, presetAt = 0): Promise<ReadKit> {
  return readPreset(await openBank(memorySource(bytes)), presetAt, identify)
}

/** Reads the first instrument of a DLS collection in memory. */
export async function readDls(bytes: Uint8Array): Promise<ReadKit> {
  return readDlsInstrument(await openDls(memorySource(bytes)), 0, identify)
}

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
      return readSf2(main!.bytes)
    case 'dls-1':
    case 'dls-2':
      return readDls(main!.bytes)
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
