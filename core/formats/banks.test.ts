import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fit, kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import { readDls, readSf2 } from '../../tests/helpers/foreign'
import { EmporionError } from '../errors'
import { writeForTarget } from '../fit/write'
import { parseKit } from '../kit/migrate'
import { chunkBytes, memorySource } from './riff'
import { openBank } from './sf2/bank'
import { findPreset } from './sf2/read'
import { writeSf2 } from './sf2/write'

const sounds = new Sounds()
const kit = kitOf([
  { name: 'One', layers: [layerOf(sounds.hit('one', 1, { seconds: 0.02 }), { highVelocity: 63 }), layerOf(sounds.hit('two', 2, { seconds: 0.02 }), { lowVelocity: 64 })] },
  { name: 'Wide', chokeGroup: 2, layers: [layerOf(sounds.hit('wide', 3, { seconds: 0.02, stereo: true }))] },
])
const bytesFor = (id: string) => writeForTarget(fit(kit, sounds, target(id)).made, target(id))[0]!.bytes
const formats = [
  ['SoundFont', bytesFor('sf2'), (bytes: Uint8Array) => readSf2(bytes)],
  ['DLS', bytesFor('dls-2'), readDls],
] as const

/** Read into a whole kit, or refused with a reason. */
async function standsIt(read: () => Promise<{ kit: unknown }>): Promise<void> {
  try {
    const { kit: found } = await read()
    expect(parseKit(JSON.parse(JSON.stringify(found)))).toEqual(found)
  }
  catch (thrown) {
    expect(thrown).toBeInstanceOf(EmporionError)
  }
}

describe.each(formats)('%s that is damaged', (_name, whole, read) => {
  it('cut off anywhere in its tables, and at steps in its samples, it is read or refused', async () => {
    for (let end = 0; end < whole.length; end += end < 600 || end > whole.length - 2500 ? 1 : 211) await standsIt(() => read(whole.slice(0, end)))
  })

  it('with any bytes changed it is read or refused, in bounded time and memory', async () => {
    await fc.assert(fc.asyncProperty(fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { minLength: 1, maxLength: 12 }), async (changes) => {
      const bytes = whole.slice()
      for (const [at, value] of changes) bytes[at] = value
      await standsIt(() => read(bytes))
    }), { numRuns: 250 })
  })

  it('of any bytes at all it is refused', async () => {
    await fc.assert(fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), async (bytes) => {
      await expect(read(bytes)).rejects.toBeInstanceOf(EmporionError)
    }))
  })
})

describe('a SoundFont bank', () => {
  it('holds several kits as presets of bank 128, found by name, place and number', async () => {
    const { made } = fit(kit, sounds, target('sf2'))
    const bank = await openBank(memorySource(writeSf2([made, { ...made, kit: { ...made.kit, name: 'Second' } }], 'Both')))
    expect(bank.presets.map(({ name, bank: number, program }) => [name, number, program])).toEqual([['Test kit', 128, 0], ['Second', 128, 1]])
    expect(['second', '128:1', '2', 'third', '128:7'].map(asked => findPreset(bank.presets, asked))).toEqual([1, 1, 1, undefined, undefined])
  })

  it('keeps 24 bits to the last one', async () => {
    const exact = new Sounds()
    const values = Float32Array.from({ length: 500 }, (_, i) => Math.round(Math.sin(i) * 8_000_000) / 0x80_0000)
    const one = kitOf([{ layers: [layerOf(exact.add('exact', [values], 48_000))] }])
    const read = await readSf2(writeForTarget(fit(one, exact, target('sf2')).made, target('sf2'))[0]!.bytes)
    expect([...read.audio.values()][0]!.channels[0]).toEqual(values)
  })

  it('says what is wrong with it: no samples, no tables, no such preset', async () => {
    const info = (version: number) => chunkBytes('LIST', Uint8Array.from('INFO', letter => letter.charCodeAt(0)), chunkBytes('ifil', Uint8Array.of(version, 0, 0, 0)))
    const form = Uint8Array.from('sfbk', letter => letter.charCodeAt(0))
    await expect(openBank(memorySource(chunkBytes('RIFF', form, info(2))))).rejects.toThrow(/no samples/)
    const sdta = chunkBytes('LIST', Uint8Array.from('sdta', letter => letter.charCodeAt(0)), chunkBytes('smpl', new Uint8Array(100)))
    await expect(openBank(memorySource(chunkBytes('RIFF', form, info(3), sdta)))).rejects.toMatchObject({ code: 'unreadable' })
    await expect(readSf2(bytesFor('sf2'), 5)).rejects.toMatchObject({ code: 'not-found' })
  })
})
