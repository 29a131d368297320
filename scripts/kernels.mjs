// Writes the WebAssembly of each .wat of core into a module beside it.
import { readFileSync, writeFileSync } from 'node:fs'
import wabt from 'wabt'

const KERNELS = [
  { source: 'core/audio/analysis/bandLevels.wat', target: 'core/audio/analysis/bandLevelsKernel.ts', name: 'BAND_LEVELS_KERNEL' },
  { source: 'core/audio/analysis/fft.wat', target: 'core/audio/analysis/fftKernel.ts', name: 'FFT_KERNEL' },
  { source: 'core/search/catalogue/distances.wat', target: 'core/search/catalogue/distancesKernel.ts', name: 'DISTANCES_KERNEL' },
  { source: 'core/audio/analysis/truePeak.wat', target: 'core/audio/analysis/truePeakKernel.ts', name: 'TRUE_PEAK_KERNEL' },
  { source: 'core/audio/analysis/weighting.wat', target: 'core/audio/analysis/weightingKernel.ts', name: 'WEIGHTING_KERNEL' },
  { source: 'core/audio/kinds/dense.wat', target: 'core/audio/kinds/denseKernel.ts', name: 'DENSE_KERNEL' },
  { source: 'core/audio/pcm.wat', target: 'core/audio/pcmKernel.ts', name: 'PCM_KERNEL' },
  { source: 'core/audio/polyphase.wat', target: 'core/audio/polyphaseKernel.ts', name: 'POLYPHASE_KERNEL' },
  { source: 'core/audio/sweep.wat', target: 'core/audio/sweepKernel.ts', name: 'SWEEP_KERNEL' },
  { source: 'core/audio/wave/encode.wat', target: 'core/audio/wave/encodeKernel.ts', name: 'ENCODE_KERNEL' },
  { source: 'core/render/voice.wat', target: 'core/render/voiceKernel.ts', name: 'VOICE_KERNEL' },
]
const BYTES_A_LINE = 40

const { parseWat } = await wabt()
for (const { source, target, name } of KERNELS) {
  const { buffer } = parseWat(source, readFileSync(source, 'utf8'), { simd: true }).toBinary({})
  const lines = Array.from({ length: Math.ceil(buffer.length / BYTES_A_LINE) }, (_, i) => `  ${[...buffer.subarray(i * BYTES_A_LINE, (i + 1) * BYTES_A_LINE)].join(', ')},`)
  writeFileSync(target, `/** WebAssembly of \`${source.split('/').at(-1)}\`. Made by \`npm run kernels\`. */
export const ${name} = Uint8Array.of(
${lines.join('\n')}
)
`)
}
