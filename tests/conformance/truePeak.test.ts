import { readFileSync } from 'node:fs'
import { SoundFont2 } from 'soundfont2'
import { describe, expect, it } from 'vitest'
import { envelopeOf } from '../../core/audio/analysis/envelope'
import { truePeak } from '../../core/audio/analysis/truePeak'
import { freepats } from '../../train/openSets'

/**
 * Held against oversampling by eight by way of the Fourier transform, which is exact for what has no frequencies above Nyquist
 * (textbook result), on every sound of the bank TimGM6mb and every percussion patch of Freepats. The transform is this test's own.
 */
const FACTOR = 8
const SILENCE_AROUND = 128

function transform(re: Float64Array, im: Float64Array, sign: 1 | -1): void {
  const n = re.length
  for (let i = 1, j = 0; i < n; i++) {
    let bit = n >> 1
    for (; j & bit; bit >>= 1) j ^= bit
    j ^= bit
    if (i < j) [re[i], re[j], im[i], im[j]] = [re[j]!, re[i]!, im[j]!, im[i]!]
  }
  for (let length = 2; length <= n; length <<= 1) {
    const half = length / 2
    const cos = Float64Array.from({ length: half }, (_, k) => Math.cos(2 * Math.PI * k / length))
    const sin = Float64Array.from({ length: half }, (_, k) => sign * Math.sin(2 * Math.PI * k / length))
    for (let start = 0; start < n; start += length) {
      for (let k = 0; k < half; k++) {
        const [a, b] = [start + k, start + k + half]
        const [x, y] = [re[b]! * cos[k]! - im[b]! * sin[k]!, re[b]! * sin[k]! + im[b]! * cos[k]!]
        re[b] = re[a]! - x
        im[b] = im[a]! - y
        re[a]! += x
        im[a]! += y
      }
    }
  }
}

/** The highest absolute value between the first and the last sample, at eight times the rate. */
function highest(samples: Float32Array): number {
  let n = 1
  while (n < samples.length + SILENCE_AROUND) n <<= 1
  const [re, im] = [new Float64Array(n), new Float64Array(n)]
  re.set(samples)
  transform(re, im, -1)
  const [fineRe, fineIm] = [new Float64Array(n * FACTOR), new Float64Array(n * FACTOR)]
  for (let k = 0; k < n / 2; k++) {
    fineRe[k] = re[k]!
    fineIm[k] = im[k]!
    if (k === 0) continue
    fineRe[n * FACTOR - k] = re[n - k]!
    fineIm[n * FACTOR - k] = im[n - k]!
  }
  fineRe[n / 2] = fineRe[n * FACTOR - n / 2] = re[n / 2]! / 2
  transform(fineRe, fineIm, 1)
  let peak = 0
  for (let i = 0; i <= (samples.length - 1) * FACTOR; i++) peak = Math.max(peak, Math.abs(fineRe[i]! / n))
  return peak
}

describe('the true peak of every sound of two open banks', () => {
  const bank = SoundFont2.from(new Uint8Array(readFileSync('/usr/share/sounds/sf2/TimGM6mb.sf2'))).samples.map(({ header, data }) => ({ name: header.name, samples: Float32Array.from(data, value => value / 32_768) }))
  const patches = freepats().map(({ samples }, i) => ({ name: `patch ${i}`, samples }))

  it.each([['TimGM6mb', bank, 400], ['Freepats', patches, 30]] as const)('%s: at most 0.2 dB under oversampling by eight, and no more than that above', (_, sounds, atLeast) => {
    const loud = sounds.filter(({ samples }) => samples.some(value => value !== 0))
    expect(loud.length).toBeGreaterThan(atLeast)
    const apart = loud.map(({ name, samples }) => ({ name, db: 20 * Math.log10(truePeak([samples], envelopeOf([samples], 44_100)) / highest(samples)) }))
    expect(apart.filter(({ db }) => Math.abs(db) > 0.2)).toEqual([])
  })
})
