import { describe, expect, it } from 'vitest'
import { beatsAMinute, counted, decibels, kilohertz, lufs, megabytes, peakDb, seconds, signedDb, timeLeft, whole } from './useFormat'

describe('figures as they are shown', () => {
  it('have units and a fixed number of digits (words.md)', () => {
    expect(seconds(0.4166)).toBe('0.42 s')
    expect(lufs(-14.23)).toBe('-14.2 LUFS')
    expect(lufs(null)).toBe('–')
    expect(megabytes(5_292_000)).toBe('5.3 MB')
    expect(megabytes(88_200)).toBe('88.2 kB')
    expect(peakDb(1)).toBe('0.0 dBFS')
    expect(peakDb(0)).toBe('silent')
    expect(decibels(-6)).toBe('-6.0 dB')
    expect(decibels(Number.NEGATIVE_INFINITY)).toBe('silent')
    expect(signedDb(3.04)).toBe('+3.0 dB')
    expect(signedDb(-3.04)).toBe('-3.0 dB')
  })

  it('say rates and counts as people do', () => {
    expect([22_050, 44_100, 48_000, 96_000].map(kilohertz)).toEqual(['22.05 kHz', '44.1 kHz', '48 kHz', '96 kHz'])
    expect(whole(104_233)).toBe('104,233')
    expect([0, 1, 12_000].map(count => counted(count, 'sound'))).toEqual(['0 sounds', '1 sound', '12,000 sounds'])
    expect([4.2, 59.9, 61].map(timeLeft)).toEqual(['5 s left', '60 s left', '2 min left'])
    expect([120, 92.5, 119.999_88, 124.482_76].map(beatsAMinute)).toEqual(['120 BPM', '92.5 BPM', '120 BPM', '124.48 BPM'])
  })
})
