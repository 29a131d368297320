import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kindFromName, kindInText } from './kindFromName'
import { KINDS } from './kinds'

describe('kinds from names', () => {
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

  it('says on which two words a subkind rests', () => {
    expect(kindFromName('Hats/Closed/013.wav')).toMatchObject({ path: 'hat.closed', evidence: '"hats" in the folder name "Hats", "closed" in the folder name "Closed"' })
    expect(kindFromName('Snares/Rimshots/Snr 3.wav')).toMatchObject({ path: 'rim', evidence: '"snr" in the file name, "rim shots" in the folder name "Rimshots"' })
  })

  it('takes what stands above for the subkind only where it says nothing else', () => {
    expect(kindFromName('Closed/Hats/3.wav')?.path).toBe('hat.closed')
    expect(kindFromName('Closed session/Hats/3.wav')?.path).toBe('hat')
    expect(kindFromName('Rims & Snares/Snare 3.wav')?.path).toBe('snare')
  })

  it('a word with several meanings gives way to the folder that it lies in', () => {
    expect(kindFromName('Snares/Wood 3.wav')?.path).toBe('snare')
    expect(kindFromName('Kicks/Sub 3.wav')?.path).toBe('kick')
    expect(kindFromName('Found/Wood 3.wav')?.path).toBe('wood')
  })

  it('is less sure where several kinds are named, and of two letters beside a word that is none of the trade', () => {
    const sure = (path: string) => kindFromName(path)!.confidence
    expect(sure('Kicks & Snares/3.wav')).toBeLessThan(sure('Kicks/3.wav'))
    expect(sure('Kicks and Loops/3.wav')).toBeLessThan(sure('Loops/3.wav'))
    expect(sure('Kick Loops/3.wav')).toBe(sure('Loops/3.wav'))
    expect(sure('Snare Loop 2.wav')).toBe(sure('Loop 2.wav'))
    expect(sure('Kick Snare 3.wav')).toBeLessThan(sure('Kick 3.wav'))
    expect(sure('Snare Rim 3.wav')).toBe(sure('Snare 3.wav'))
    expect(sure('Oh yeah.wav')).toBeLessThan(sure('OH 3.wav'))
    expect(sure('HBR_OH_3.wav')).toBe(sure('OH 3.wav'))
    expect(sure('SHAKR1.WAV')).toBeLessThan(sure('SHAKER1.WAV'))
  })

  it('reads any path, and what it says is of the tree', () => {
    const paths = new Set(KINDS.map(kind => kind.path))
    const part = fc.oneof(fc.string({ unit: 'binary', maxLength: 40 }), fc.constantFrom('constructor', '__proto__', 'hats constructor', 'Snare', 'closed', 'HHopen', 'kd'))
    fc.assert(fc.property(fc.array(part, { maxLength: 4 }).map(parts => parts.join('/')), (path) => {
      const guess = kindFromName(path)
      if (!guess) return
      expect(paths.has(guess.path)).toBe(true)
      expect(guess.confidence).toBeGreaterThan(0)
      expect(guess.confidence).toBeLessThanOrEqual(0.9)
    }))
  })

  it('reads a kind in any text', () => {
    expect(kindInText('Hats, tip, closed')).toEqual({ path: 'hat.closed', word: 'hats', isWeak: false })
    expect(kindInText('a bell')).toMatchObject({ path: 'metal.bell', isWeak: true })
    expect(kindInText('constructor')).toBeUndefined()
  })
})
