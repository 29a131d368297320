import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { figuresOf } from '../../core/audio/analysis/figures'
import { decodeAudio } from '../../core/audio/decode'
import { allPacks } from '../../demo/packs/packs'

// The package loads its WebAssembly as a module, which Node 20 does behind a flag, so it runs in a process of its own.
const REFERENCE = `
  import { ebur128_integrated_mono, ebur128_true_peak_mono } from 'ebur128-wasm/ebur128_wasm.js'
  import { readFileSync } from 'node:fs'
  const bytes = readFileSync(0)
  const samples = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
  const rate = Number(process.argv[1])
  console.log(JSON.stringify({ lufs: ebur128_integrated_mono(rate, samples), peakDb: ebur128_true_peak_mono(rate, samples) }))
`

/** What the npm library `ebur128-wasm` (an implementation of EBU R128 in Rust) says of one channel. */
function reference(samples: Float32Array, sampleRate: number): { lufs: number, peakDb: number } {
  const input = Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength)
  const answer = execFileSync('node', ['--experimental-wasm-modules', '--no-warnings', '--input-type=module', '-e', REFERENCE, String(sampleRate)], { input })
  return JSON.parse(answer.toString()) as { lufs: number, peakDb: number }
}

describe('loudness of the demo\'s loops', () => {
  it('agrees with ebur128-wasm: integrated within 0.1 LU, true peak within 0.4 dB', async () => {
    const loops = allPacks(9).filter(entry => entry.path.includes('/loops/'))
    expect(loops.length).toBeGreaterThan(0)
    for (const file of loops) {
      const audio = await decodeAudio(file.make())
      const { level } = figuresOf(audio.channels, audio.sampleRate)
      const { lufs, peakDb } = reference(audio.channels[0]!, audio.sampleRate)
      expect(Math.abs(level!.integratedLufs! - lufs)).toBeLessThan(0.1)
      expect(Math.abs(level!.truePeakDb - peakDb)).toBeLessThan(0.4)
    }
  })
})
