import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Flag } from '../audio/analysis/figures'
import { loopByTempo, tempoOf, type TempoWitnesses } from './tempo'

const output = (path: string, of: Partial<TempoWitnesses> = {}, kind: string | null = 'loop') => tempoOf({ paths: [path], tagBpm: undefined, lengthSeconds: 3.871, ...of }, kind)
const beats = (count: number, bpm: number) => count * 60 / bpm

describe('the tempo that is stated of a sound', () => {
  // Names as packs have them: common practice.
  it.each([
    ['Night_124bpm.wav', 124], ['Night 124 BPM.wav', 124], ['bpm_92.5_brush.wav', 92.5], ['Loops/Deck Beat 98-bpm A.aif', 98],
    ['Loops 124 BPM/Deck 01.wav', 124], ['Night 90bpm/Loops/Deck.wav', 90], ['Slow 70bpm/Fast 140 bpm/Deck.wav', 140],
  ])('%s: by the word, in its name or a folder, the nearest first', (path, bpm) => {
    expect(output(path)?.bpm).toBe(bpm)
  })

  it.each(['Loop_124_Am.wav', '124_Deck_Loop_01.wav', 'Top Loop 3 124.wav', 'A/Deck - 124.wav'])('%s: by its number, where it lasts whole bars with it', (path) => {
    expect(output(path, { lengthSeconds: beats(8, 124) })).toEqual({ bpm: 124, evidence: '"124" in its name, by which it lasts 8 beats' })
    expect(output(path, { lengthSeconds: beats(9, 124) })).toBeUndefined()
  })

  it.each(['Loops 124/Deck 3.wav', 'Loops/124/Full/Deck.wav', 'Loops 124/Beat 090.wav'])('%s: by the number of a folder, where it lasts whole bars with it', (path) => {
    expect(output(path, { lengthSeconds: beats(8, 124) })?.bpm).toBe(124)
    expect(output(path, { lengthSeconds: beats(9, 124) })).toBeUndefined()
  })

  it('is that of its tags before its name, and of its name before a folder', () => {
    expect(output('Loops 90 BPM/Deck 124 BPM.wav', { tagBpm: 126 })).toEqual({ bpm: 126, evidence: 'its tags' })
    expect(output('Loops 90 BPM/Deck 124 BPM.wav')).toEqual({ bpm: 124, evidence: '"124 BPM" in its name' })
    expect(output('Loops 90 BPM/Deck.wav')).toEqual({ bpm: 90, evidence: '"90 BPM" in the folder "Loops 90 BPM"' })
  })

  it.each(['Loops 90-100 BPM/Deck.wav', 'BPM 90 – 100/Deck.wav', '90 to 100 bpm/Deck.wav'])('%s: a folder for a range of tempos states none', (path) => {
    expect(output(path)).toBeUndefined()
    expect(output(path.replace('Deck', 'Deck 4-96bpm'))?.bpm).toBe(96)
  })

  it('of several files is that of the first which says one', () => {
    expect(output('', { paths: ['Copies/013.wav', 'Loops/Deck 96 bpm.wav', 'Loops/Deck 97 bpm.wav'] })?.bpm).toBe(96)
  })

  it('is not read in bare numbers or folders for what is no loop', () => {
    const one = { lengthSeconds: beats(4, 120) }
    for (const kind of ['kick', null]) expect(output('Kit 120 BPM/Kick 120.wav', one, kind)).toBeUndefined()
    expect(output('Kit/Kick 120bpm.wav', one, 'kick')?.bpm).toBe(120)
  })

  it('is not guessed where two numbers fit, or what is stated can be no tempo', () => {
    expect(output('Loop 120 60.wav', { lengthSeconds: beats(8, 120) })).toBeUndefined()
    expect(output('Loop 090.wav', { lengthSeconds: beats(8, 90) })?.evidence).toBe('"090" in its name, by which it lasts 8 beats')
    expect(output('Loop 120 90.wav', { lengthSeconds: beats(8, 120) })?.bpm).toBe(120)
    expect(output('Loop 12 bpm.wav', { lengthSeconds: beats(8, 120), tagBpm: 0 })).toBeUndefined()
    expect(output('Loop 808.wav', { lengthSeconds: beats(32, 808) })).toBeUndefined()
  })

  it('bare numbers: a loop of whole bars has the tempo that it was cut at, however its length was rounded to frames', () => {
    fc.assert(fc.property(fc.integer({ min: 40, max: 240 }), fc.integer({ min: 1, max: 16 }), fc.constantFrom(22_050, 44_100, 48_000, 96_000), (bpm, bars, rate) => {
      const lengthSeconds = Math.round(beats(4 * bars, bpm) * rate) / rate
      expect(output(`Deck Loop ${bpm}.wav`, { lengthSeconds })?.bpm).toBe(bpm)
    }))
  })

  it('reads any path', () => {
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), fc.string(), fc.double({ min: 0, max: 1e6, noNaN: true }), (folder, name, lengthSeconds) => {
      const found = output(`${folder}/${name}`, { lengthSeconds })
      expect(found === undefined || (found.bpm >= 40 && found.bpm <= 240)).toBe(true)
    }))
  })
})

describe('a loop by its tempo', () => {
  const loopOf = (path: string, flags: readonly Flag[], of: Partial<TempoWitnesses> = {}) => loopByTempo({ paths: [path], tagBpm: undefined, lengthSeconds: beats(8, 124), ...of }, flags)
  const several = ['several-hits'] as const
  const many = ['several-hits', 'loop'] as const

  it('has several hits and a tempo that its name states by the word, or by a number where it has many', () => {
    expect(loopOf('Bongo 124bpm.wav', several)).toEqual({ path: 'loop', confidence: 0.9, evidence: '"124bpm" in its name, and it has several hits' })
    expect(loopOf('Shaker 124.wav', many)?.path).toBe('loop')
    expect(loopOf('Kit 124 bpm/Shaker.wav', many)?.path).toBe('loop')
    expect(loopOf('Shaker 124.wav', several)).toBeUndefined()
    expect(loopOf('Bongo 124bpm.wav', many, { lengthSeconds: 1.7 })?.path).toBe('loop')
  })

  it('is not what only lies in a folder that states a tempo, or has a tag for it, and lasts no whole bars', () => {
    expect(loopOf('Pack 124 BPM/One Shots/Ratchet.wav', many, { lengthSeconds: 1.7 })).toBeUndefined()
    expect(loopOf('Ratchet.wav', many, { lengthSeconds: 1.7, tagBpm: 124 })).toBeUndefined()
    expect(loopOf('Ratchet.wav', many, { tagBpm: 124 })?.path).toBe('loop')
  })

  it('is no stroke, with a flam or without, and no roll that nothing states a tempo of', () => {
    expect(loopOf('Bongo 124bpm.wav', [])).toBeUndefined()
    expect(loopOf('Clap 124bpm.wav', several, { lengthSeconds: 0.8 })).toBeUndefined()
    expect(loopOf('Snare Roll 2.wav', many)).toBeUndefined()
  })
})
