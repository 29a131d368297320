import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { fit, kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import { writeForTarget } from '../fit/write'
import { HEAD_BYTES, holdsBag, recognised } from './recognise'

const sounds = new Sounds()
const kit = kitOf([{ layers: [layerOf(sounds.hit('one', 1))] }])
const filesFor = (id: string) => writeForTarget(fit(kit, sounds, target(id)).made, target(id))

describe('a kit package', () => {
  it('is a zip whose names have a bag declaration (RFC 8493, 2.1.1), wherever in its list', () => {
    const named = (...names: string[]) => Buffer.from(names.map(name => `PK\x01\x02 ${name}`).join(''))
    expect([named('Kit/bagit.txt', 'Kit/data/kit.json'), named('b', 'bagi', 'bagit.txt')].map(holdsBag)).toEqual([true, true])
    expect([named('kit.sfz', 'samples/bell.wav'), named('bagit.tx'), Buffer.from('')].map(holdsBag)).toEqual([false, false, false])
  })
})

describe('what a file is', () => {
  it('is recognised by its first bytes', () => {
    const bySort = (id: string, name: RegExp) => recognised(filesFor(id).find(({ path }) => name.test(path))!.bytes.subarray(0, HEAD_BYTES))
    expect([bySort('sf2', /sf2$/), bySort('dls-2', /dls$/), bySort('samples', /wav$/), bySort('samples', /mid$/), bySort('sfz', /sfz$/)]).toEqual(['sf2', 'dls', 'audio', 'midi', 'text'])
    expect(recognised(readFileSync('/usr/share/sounds/sf2/TimGM6mb.sf2').subarray(0, HEAD_BYTES))).toBe('sf2')
    expect([recognised(Buffer.from('PK\x03\x04rest')), recognised(Buffer.from('fLaC')), recognised(Buffer.from('wvpk'))]).toEqual(['zip', 'audio', 'audio'])
    expect([recognised(new Uint8Array()), recognised(Uint8Array.from([1, 0, 2, 0, 9])), recognised(Buffer.from('RIFF    none'))]).toEqual(['unknown', 'unknown', 'unknown'])
  })
})
