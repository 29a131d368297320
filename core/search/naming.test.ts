import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readName, withoutMarks } from './naming'

describe('markers in names (common practice)', () => {
  it.each([
    ['TomHi_rr3.wav', { take: 3, family: 'tomhi' }],
    ['Snare take 12.wav', { take: 12, family: 'snare' }],
    ['SD_v3_rr2.wav', { velocity: 3, take: 2, family: 'sd' }],
    ['Kick_vel127.aif', { velocity: 127, family: 'kick' }],
    ['TomHi_p.wav', { velocity: 49, family: 'tomhi' }],
    ['TomHi_mf.wav', { velocity: 80, family: 'tomhi' }],
    ['TomHi_ff.wav', { velocity: 112, family: 'tomhi' }],
    ['Rim Soft 2.wav', { velocity: 49, family: 'rim 2' }],
    ['Snare 02 mid.wav', { velocity: 72, family: 'snare 02' }],
    ['tom mid - take 2 (mid).wav', { velocity: 72, take: 2, family: 'tom mid' }],
    ['Gangway 122bpm.wav', { bpm: 122 }],
    ['Deck_BPM_96_Amin.wav', { bpm: 96, key: 'Amin' }],
    ['Bell C#3.wav', { note: 'C#3' }],
    ['Bell_F4_v2.wav', { note: 'F4', velocity: 2, family: 'bell f4' }],
    ['KickHard02.wav', { velocity: 104, take: 2, family: 'kick' }],
    ['Snare-mf2.wav', { velocity: 80, take: 2, family: 'snare' }],
    ['Snare_ff_3.wav', { velocity: 112, family: 'snare 3' }],
    ['SN_L3_R2.wav', { velocity: 3, take: 2, family: 'sn' }],
    ['Snr_r1_v2.wav', { velocity: 2, take: 1, family: 'snr' }],
    ['Tom var2.wav', { take: 2, family: 'tom' }],
    ['Snare_low_vel.wav', { velocity: 40, family: 'snare' }],
    ['Tom Vel Hi rr2.wav', { velocity: 108, take: 2, family: 'tom' }],
    ['Loop_124_Am.wav', { key: 'Am' }],
    ['Bass F#2.wav', { note: 'F#2' }],
  ])('%s', (path, facts) => {
    expect(readName(path)).toMatchObject(facts)
  })

  it('numbers alone make no family, and the first word is a name whatever it says', () => {
    expect(readName('Kick 07.wav').family).toBeUndefined()
    expect(readName('013.wav')).toEqual({ parts: [{ text: '013', means: 'number' }] })
    expect(readName('Hard Kick.wav').velocity).toBeUndefined()
    expect(readName('Tom Mid 2.wav').family).toBeUndefined()
  })

  it('a name that tells nothing but strokes is one of its folder', () => {
    expect(readName('Rack 12/v3_rr2.wav')).toMatchObject({ velocity: 3, take: 2, family: 'rack 12/' })
    expect(readName('Snare 14/soft 2.wav')).toMatchObject({ velocity: 49 })
    expect(readName('Hits/Hit 03.wav').family).toBeUndefined()
    expect(readName('V2 Kick.wav').family).toBeUndefined()
  })

  it.each([['Snare_soft_rr1', 'Snare'], ['Tom_C1_v12_rr3', 'Tom_C1'], ['tom mid - take 2 (mid)', 'tom mid'], ['Kick tief 01 hard', 'Kick tief 01'], ['SN_L3_R2', 'SN'], ['v3_rr2', ''], ['Kick 07', 'Kick 07']])('%s without its strokes and takes is "%s"', (name, without) => {
    expect(withoutMarks(name)).toBe(without)
  })

  it('families are told apart by their folders', () => {
    expect(readName('Deck/Tom_rr1.wav').family).toBe(readName('Deck/Tom_rr2.wav').family)
    expect(readName('Deck/Tom_rr1.wav').family).not.toBe(readName('Hold/Tom_rr1.wav').family)
    expect(readName('Deck/TomHi_rr1.wav').family).not.toBe(readName('Deck/TomLo_rr1.wav').family)
  })

  it('any stem with any marker is one family, and the marker is read', () => {
    const stem = fc.stringMatching(/^[A-Z][a-z]{2,8}$/)
    fc.assert(fc.property(stem, fc.constantFrom('_', ' ', '-'), fc.nat(99), fc.nat(99), (name, sign, a, b) => {
      const [one, two] = [readName(`${name}${sign}rr${a}.wav`), readName(`${name}${sign}rr${b}.wav`)]
      expect([one.take, two.take]).toEqual([a, b])
      expect(one.family).toBe(two.family)
    }))
  })

  it('does not take the end of a word for a stroke', () => {
    for (const name of ['Clap.wav', 'Kick tief.wav', 'snap 01.wav', 'hi loop f3.wav', 'Bass F#.wav', 'Tom L3.wav', 'Tom hi.wav', 'Softly2.wav']) expect(readName(name).velocity, name).toBeUndefined()
    expect(readName('Kick tief 01 soft.wav')).toMatchObject({ velocity: 49, family: 'kick tief 01' })
    expect(readName('SnareHard.wav')).toMatchObject({ velocity: 104 })
  })

  it('reads any name, and every part lies in it', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 120 }), (name) => {
      for (const { text } of readName(name).parts) expect(name.normalize('NFC')).toContain(text)
    }))
  })
})
