import { writeDls } from '../formats/dls/write'
import { writeSampleSet, waveOf, type SampleSetOptions } from '../formats/samples/write'
import { writeSf2 } from '../formats/sf2/write'
import { writeSfz } from '../formats/sfz/write'
import { portableName } from '../formats/package/names'
import { utf8, type MadeKit, type WrittenFile } from '../formats/write'
import { bankLetter, type Target } from './target'

/**
 * The files of a kit that was made for a target. A kit package is not written here: it holds its samples as they were.
 *
 * @throws EmporionError `limit` for what a format cannot hold
 */
export function writeForTarget(made: MadeKit, target: Target): WrittenFile[] {
  const name = portableName(made.kit.name, 'Kit')
  switch (target.writes) {
    case 'sfz': {
      const wave = new Map([...made.samples].map(([id, sample]) => [id, `samples/${sample.name}.wav`]))
      return [
        { path: `${name}.sfz`, bytes: utf8(writeSfz(made.kit, layer => ({ path: wave.get(layer.sound.id)!, baked: true }))) },
        ...[...made.samples].map(([id, sample]) => ({ path: wave.get(id)!, bytes: waveOf(sample, undefined, sample.name) })),
      ]
    }
    case 'sf2':
      return [{ path: `${name}.sf2`, bytes: writeSf2([made], made.kit.name) }]
    case 'dls-1':
    case 'dls-2':
      return [{ path: `${name}.dls`, bytes: writeDls([made], made.kit.name, target.writes === 'dls-1' ? 1 : 2) }]
    case 'samples':
    case 'package':
      return writeSampleSet(made, sampleSetOptions(target))
  }
}

/** How a set of samples is written for a target. */
export function sampleSetOptions({ index, middleC, pads }: Target): SampleSetOptions {
  return { index, middleC, placeOf: slot => ({ bank: bankLetter(Math.floor(slot / pads.inBank)), pad: slot % pads.inBank + 1 }) }
}
