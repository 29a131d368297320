import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { figuresOf } from '../../core/audio/analysis/figures'
import { matchingGainDb, MATCHING_CEILING_DB, REFERENCE_LUFS } from '../../core/audio/analysis/loudness'
import { decodeAudio } from '../../core/audio/decode'
import { fromDb } from '../../core/audio/level'
import { allPacks } from '../../demo/packs/packs'

// The package loads its WebAssembly as a module, which Node 20 does behind a flag, so it runs in a process of its own.
const REFERENCE = `
  import { ebur128_integrated_mono, ebur128_true_peak_mono } from 'ebur128-wasm/ebur128_wasm.js'
  import { readFileSync } from 'node:fs'
  const sounds = JSON.parse(readFileSync(0, 'utf8'))
  console.log(JSON.stringify(sounds.map(({ rate, base64 }) => {
    const bytes = Buffer.from(base64, 'base64')
    const samples = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
    return { lufs: ebur128_integrated_mono(rate, samples), peakDb: ebur128_true_peak_mono(rate, samples) }
  })))
`
const BLOCK_SECONDS = 0.4
/** EBU Tech 3341 lets a true-peak meter read 0.2 dB too much or 0.4 dB too little (from memory), so two of them may be so far apart. */
const METERS_APART_DB = 0.6

/** What the npm library `ebur128-wasm` (EBU R128 in Rust) says of some sounds of one channel. */
function reference(sounds: readonly { readonly samples: Float32Array, readonly rate: number }[]): { lufs: number, peakDb: number }[] {
  const input = JSON.stringify(sounds.map(({ samples, rate }) => ({ rate, base64: Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength).toString('base64') })))
  return JSON.parse(execFileSync('node', ['--experimental-wasm-modules', '--no-warnings', '--input-type=module', '-e', REFERENCE], { input, maxBuffer: 1e9 }).toString()) as { lufs: number, peakDb: number }[]
}

describe('sounds played at matched levels', () => {
  it.each([REFERENCE_LUFS, -20, -32])('agree within 0.5 LU at a reference of %s LUFS, and none passes -1 dBTP, as ebur128-wasm measures them', async (referenceLufs) => {
    const played: { samples: Float32Array, rate: number, isHeldBack: boolean }[] = []
    for (const file of allPacks(9).filter((_, i) => i % 9 === 0)) {
      const audio = await decodeAudio(file.make()).catch(() => undefined)
      if (audio?.channels.length !== 1) continue
      const { level, flags, timing } = figuresOf(audio.channels, audio.sampleRate)
      // One block of BS.1770 is what a hit is measured over: a longer sound is told by its loudest block, which the reference does not give.
      if (!level || !timing || flags.includes('several-hits') || timing.leadSeconds > 0.02 || audio.frames > BLOCK_SECONDS * audio.sampleRate) continue
      const gainDb = matchingGainDb(level.hitLufs, level.truePeakDb, referenceLufs)
      const block = new Float32Array(Math.round(BLOCK_SECONDS * audio.sampleRate))
      block.set(audio.channels[0]!.map(value => value * fromDb(gainDb)))
      played.push({ samples: block, rate: audio.sampleRate, isHeldBack: gainDb < referenceLufs - level.hitLufs - 0.01 })
    }
    expect(played.length).toBeGreaterThan(12)
    const measured = reference(played)
    measured.forEach(({ lufs, peakDb }, i) => {
      expect(peakDb).toBeLessThan(MATCHING_CEILING_DB + METERS_APART_DB)
      if (played[i]!.isHeldBack) expect(lufs).toBeLessThan(referenceLufs)
      else expect(Math.abs(lufs - referenceLufs)).toBeLessThan(0.5)
    })
  })
})
