import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kindFromName } from './kindFromName'
import { KINDS } from './kinds'
import { naturalKey } from './naturalKey'
import { nameTokens, searchText } from './tokens'
import { queryWords } from './words'

describe('names cut into words', () => {
  it('cuts at signs, at capitals, and between letters and digits', () => {
    expect(nameTokens('OpenHat03')).toEqual(['open', 'hat', '03'])
    expect(nameTokens('HHOpen_v2')).toEqual(['hh', 'open', 'v', '2'])
    expect(nameTokens('Nachtfähre - Kick (tief)')).toEqual(['nachtfahre', 'kick', 'tief'])
  })

  it('finds accents written either way, composed or not', () => {
    expect(searchText('Fa\u0308hre')).toBe(searchText('Fähre'))
    expect(searchText('OpenHat 03')).toBe('openhat 03 | open hat 03')
    expect(queryWords('FÄHRE')).toEqual(['fahre'])
  })

  it('every word of a name is found by a query for that name', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (name) => {
      const tokens = searchText(name).split(' ')
      for (const word of queryWords(name)) expect(tokens.some(token => token.startsWith(word))).toBe(true)
    }))
  })

  it('query words hold nothing that a query language could take as a sign', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary' }), (query) => {
      expect(queryWords(query).every(word => /^[\p{L}\p{N}]+$/u.test(word))).toBe(true)
    }))
  })
})

describe('natural order', () => {
  it('counts as people do', () => {
    const names = ['Tom 10', 'Tom 2', 'tom 1', 'Tom 02b', 'Tom 002']
    const sorted = names.toSorted((a, b) => naturalKey(a) < naturalKey(b) ? -1 : 1)
    expect(sorted[0]).toBe('tom 1')
    expect(sorted.at(-1)).toBe('Tom 10')
  })
})

describe('kinds from names (common practice)', () => {
  const cases: readonly [string, string | undefined][] = [
    ['HBR_BD_001.WAV', 'kick'], ['Kicks/013.wav', 'kick'], ['KIK 2.wav', 'kick'], ['Bass Drum Soft.wav', 'kick'],
    ['HBR_SD_012.WAV', 'snare'], ['snr-tight.wav', 'snare'], ['RS 1.wav', 'rim'], ['Sidestick.wav', 'rim'],
    ['CP3.wav', 'clap'], ['Snap_2.wav', 'snap'],
    ['CHH_01.wav', 'hat.closed'], ['HH_Op.wav', 'hat.open'], ['Ohat 3.wav', 'hat.open'], ['OpenHat03.wav', 'hat.open'], ['hi-hat closed - take 2.aif', 'hat.closed'], ['PHH.wav', 'hat.pedal'], ['hats/7.wav', 'hat'],
    ['Floor Tom 1 soft.wav', 'tom.low'], ['TomHi_rr2.wav', 'tom.high'], ['MT1.wav', 'tom.mid'],
    ['Crash 16.wav', 'cymbal.crash'], ['ride bell - take 3.aif', 'cymbal.ride'], ['Splash.wav', 'cymbal.splash'],
    ['Tamb 2.wav', 'shaker.tambourine'], ['Shaker01.wav', 'shaker'], ['Cowbell01.wav', 'metal.cowbell'], ['ShipBell 2.wav', 'metal.bell'],
    ['WoodBlock06.wav', 'wood.block'], ['CLV_1.wav', 'wood.claves'], ['Bongo 3.wav', 'hand.bongo'], ['Cng.wav', 'hand.conga'],
    ['loops/Gangway 122bpm.wav', 'loop'], ['Kick Loop 120.wav', 'loop'], ['voice shout 2.wav', 'voice'], ['Fx/Gull02.wav', 'effect'],
    ['closedhat 4.wav', 'hat.closed'], ['lowtom.wav', 'tom.low'], ['deepkick2.wav', 'kick'], ['snareroll.wav', 'snare'], ['RimClick.wav', 'rim'], ['ch 3.wav', 'hat.closed'], ['OH_04.wav', 'hat.open'],
    ['Clsd Hat 2.wav', 'hat.closed'], ['HH_semiopen.wav', 'hat.open'], ['hat_sizzle_3.wav', 'hat.open'], ['hh-chick.wav', 'hat.pedal'], ['HH Foot.wav', 'hat.pedal'], ['Low Toms/4.wav', 'tom.low'], ['RotoTom 6.wav', 'tom'],
    ['Gran Cassa f.wav', 'kick'], ['tumba open.wav', 'hand.conga'], ['Quinto Slap.wav', 'hand.conga'], ['sticks click.wav', 'wood'], ['CR 16.wav', 'cymbal.crash'], ['LC00.wav', 'hand.conga'], ['MA 2.wav', 'shaker.maracas'], ['CL.wav', 'wood.claves'], ['HH CL.wav', 'hat.closed'],
    ['perc 12.wav', undefined], ['overriding.wav', undefined], ['kitchen.wav', undefined], ['readme.wav', undefined], ['013.wav', undefined], ['Stickers/untitled.wav', undefined], ['proto 3.wav', undefined], ['rotor.wav', undefined],
  ]

  it.each(cases)('%s is %s', (path, kind) => {
    expect(kindFromName(path)?.path).toBe(kind)
  })

  it('trusts a name over a folder and says on what word it rests', () => {
    expect(kindFromName('Kicks/snare.wav')).toEqual({ path: 'snare', confidence: 0.9, evidence: '"snare" in the file name' })
    expect(kindFromName('Kicks/1.wav')?.confidence).toBeLessThan(0.9)
    expect(kindFromName('Kicks/1.wav')?.evidence).toContain('"Kicks"')
  })

  it('is less sure of two letters that may be something else', () => {
    expect(kindFromName('MA 2.wav')!.confidence).toBeLessThan(kindFromName('Maracas 2.wav')!.confidence)
    expect(kindFromName('Kick CL.wav')?.path).toBe('kick')
    expect(kindFromName('Claps/CL 2.wav')?.path).toBe('clap')
    expect(kindFromName('MC Tapes/013.wav')).toBeUndefined()
    expect(kindFromName('MC found 013.wav')).toBeUndefined()
  })

  it('names only kinds of the tree', () => {
    const paths = new Set(KINDS.map(kind => kind.path))
    for (const [, kind] of cases) if (kind) expect(paths.has(kind)).toBe(true)
  })
})
