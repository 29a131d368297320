import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { peakOf } from '../../../tests/helpers/audio'
import { anyStruck, struck, STRUCK_NAMES, STRUCK_RATE as RATE, variantOf } from '../../../tests/helpers/struck'
import { decodeAudio } from '../decode'
import { resample } from '../resample'
import { writeWave } from '../wave/write'
import { isOneRecording, matchWaveforms, Prepared, type WaveformMatch } from './waveformMatch'

function match(first: Float32Array, second: Float32Array, rate = RATE, startSeconds = 0): WaveformMatch {
  return matchWaveforms(new Prepared({ mono: first, sampleRate: RATE, startSeconds: 0 }), new Prepared({ mono: second, sampleRate: rate, startSeconds }))
}

/** What an encoder with loss makes of it. */
async function lossy(samples: Float32Array): Promise<Float32Array> {
  const folder = mkdtempSync(join(tmpdir(), 'emporion-lossy-'))
  try {
    writeFileSync(join(folder, 'a.wav'), writeWave([samples], RATE, { depth: 16 }))
    execFileSync('lame', ['--quiet', '-b', '128', join(folder, 'a.wav'), join(folder, 'a.mp3')])
    return (await decodeAudio(readFileSync(join(folder, 'a.mp3')))).channels[0]!
  }
  finally {
    rmSync(folder, { recursive: true })
  }
}

describe('one recording', () => {
  it('is told at another level, rate and length, with how much louder and later it is', () => {
    fc.assert(fc.property(anyStruck, fc.nat(500), fc.double({ min: 0.1, max: 1, noNaN: true }), fc.integer({ min: 0, max: 4800 }), fc.constantFrom(22_050, 32_000, 44_100, 48_000, 96_000), (name, seed, gain, lead, rate) => {
      const samples = struck(name, seed)
      const found = match(samples, variantOf(samples, gain, lead, 0.85, rate), rate, lead / RATE)
      expect(isOneRecording(found)).toBe(true)
      expect(found.levelDb).toBeCloseTo(20 * Math.log10(gain), 0)
    }), { numRuns: 30 })
  })

  it.each(STRUCK_NAMES)('is recognised upside down, and in 8 bits: %s', (name) => {
    const samples = struck(name, 5)
    expect(isOneRecording(match(samples, samples.map(value => -value)))).toBe(true)
    expect(isOneRecording(match(samples, samples.map(value => Math.round(value * 127) / 127)))).toBe(true)
  })

  it.each(STRUCK_NAMES.filter(name => name !== 'closedHat'))('is recognised where it was stored with loss: %s', async (name) => {
    const loud = struck(name, 5)
    const gain = 0.5 / peakOf(loud)
    const samples = loud.map(value => value * gain)
    const copy = await lossy(samples)
    // What encoders put before a sound is not part of it.
    const least = 0.001 * peakOf(copy)
    const start = copy.findIndex(value => Math.abs(value) > least)
    expect(isOneRecording(match(samples, copy, RATE, start / RATE))).toBe(true)
  })
})

describe('two recordings', () => {
  it('are told apart where they are two strokes of one drum, at whatever rate', () => {
    // Those with noise in them: two bells or toms of one pitch are the same tone, and a few of ours come that near.
    fc.assert(fc.property(fc.constantFrom('snare' as const, 'bongo' as const, 'closedHat' as const), fc.nat(300), fc.constantFrom(22_050, 32_000, RATE), (name, seed, rate) => {
      const [other] = resample([struck(name, seed + 1000)], RATE, rate)
      expect(isOneRecording(match(struck(name, seed), other!, rate))).toBe(false)
    }), { numRuns: 30 })
  })
})
