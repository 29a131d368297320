import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fit, identify, kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import { readDls, readSf2 } from '../../tests/helpers/foreign'
import { writeAiff } from '../../demo/packs/aiff'
import { readAiff } from '../audio/aiff/read'
import { readWave } from '../audio/wave/read'
import { EmporionError } from '../errors'
import { writeForTarget } from '../fit/write'
import { readMidi } from '../groove/midi/read'
import { parseKit } from '../kit/migrate'
import { readSfzKit } from './sfz/read'
import { readSampleSet } from './samples/read'

/** Each reader is given so many damaged files. */
const MUTATIONS = 10_000
/** What a file of some kB may unfold into: 256 MB of samples of four bytes. */
const MOST_SAMPLES = 64_000_000

const sounds = new Sounds()
const kit = kitOf([
  { name: 'One', role: 'kick', layers: [layerOf(sounds.hit('one', 1, { seconds: 0.01 }), { highVelocity: 63 }), layerOf(sounds.hit('two', 2, { seconds: 0.01 }), { lowVelocity: 64 })] },
  { name: 'Wide', chokeGroup: 2, layers: [layerOf(sounds.hit('wide', 3, { seconds: 0.01, stereo: true }))] },
])
const filesFor = (id: string) => writeForTarget(fit(kit, sounds, target(id)).made, target(id))
const bytesFor = (id: string) => filesFor(id)[0]!.bytes
const set = filesFor('samples')
const waves = set.filter(({ path }) => path.endsWith('.wav'))
const decoded = waves.map(({ path, bytes }) => ({ path, audio: readWave(bytes) }))
const ids = new Map(decoded.map(({ audio }) => [audio.channels, identify(audio)]))
const written = join(import.meta.dirname, '../../tests/conformance/sfz')
const sfz = readdirSync(written).filter(name => name.endsWith('.sfz')).map(name => readFileSync(join(written, name)))

interface Read {
  readonly kit?: unknown
  readonly samples: number
}

const samplesOf = (audio: Iterable<{ readonly channels: readonly Float32Array[] }>) => [...audio].reduce((sum, { channels }) => sum + channels.reduce((all, channel) => all + channel.length, 0), 0)
const kitRead = ({ kit: read, audio }: { kit: unknown, audio: ReadonlyMap<string, { readonly channels: readonly Float32Array[] }> }): Read => ({ kit: read, samples: samplesOf(audio.values()) })
const latin1 = (bytes: Uint8Array) => Buffer.from(bytes).toString('latin1')

const READERS: readonly (readonly [name: string, wholes: readonly Uint8Array[], read: (bytes: Uint8Array) => Promise<Read>])[] = [
  ['SoundFont', [bytesFor('sf2')], async bytes => kitRead(await readSf2(bytes))],
  ['DLS', [bytesFor('dls-2')], async bytes => kitRead(await readDls(bytes))],
  ['SFZ', sfz, async bytes => kitRead(await readSfzKit({ text: latin1(bytes), path: 'kit.sfz', name: 'Kit', decode: () => Promise.resolve(decoded[0]!.audio), identify }))],
  ['a list of samples', [set.find(({ path }) => path.endsWith('.csv'))!.bytes], bytes => Promise.resolve(kitRead(readSampleSet({ name: 'Set', files: decoded, index: latin1(bytes), middleC: 'C3', identify: ({ channels }) => ids.get(channels)! })))],
  ['MIDI', [set.find(({ path }) => path.endsWith('.mid'))!.bytes], bytes => Promise.resolve({ samples: readMidi(bytes).tracks.length })],
  ['WAVE', [waves[0]!.bytes], bytes => Promise.resolve({ samples: samplesOf([readWave(bytes)]) })],
  ['AIFF', [writeAiff(sounds.audio.values().next().value!.channels, 48_000, 16)], bytes => Promise.resolve({ samples: samplesOf([readAiff(bytes)]) })],
]

describe.each(READERS)('%s, damaged in ten thousand ways', (_name, wholes, read) => {
  it('is read into something whole and of bounded size, or refused with a reason', async () => {
    // Tables lie at both ends: damage is as likely there as in the audio between.
    const place = fc.oneof(fc.double({ min: 0, max: 1, noNaN: true }).map(part => (length: number) => Math.floor(part * length)), fc.nat(600).map(from => () => from), fc.nat(2_500).map(back => (length: number) => length - 1 - back))
    await fc.assert(fc.asyncProperty(fc.constantFrom(...wholes), fc.array(fc.tuple(place, fc.nat(255)), { minLength: 1, maxLength: 8 }), fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { freq: 4 }), async (whole, changes, part) => {
      const bytes = Uint8Array.from(whole)
      for (const [placed, value] of changes) bytes[Math.max(0, Math.min(whole.length - 1, placed(whole.length)))] = value
      try {
        const { kit: found, samples } = await read(part === null ? bytes : bytes.subarray(0, Math.floor(part * whole.length)))
        if (found !== undefined) parseKit(structuredClone(found))
        expect(samples).toBeLessThan(MOST_SAMPLES)
      }
      catch (thrown) {
        if (!(thrown instanceof EmporionError)) throw thrown
      }
    }), { numRuns: MUTATIONS })
  }, 300_000)
})
