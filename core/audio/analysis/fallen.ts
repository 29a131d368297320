/** Blocks by which a tone is followed. */
const BLOCK_CYCLES = 2
/** Within a group of frames a tone is taken to stand still. */
const GROUPS_A_CYCLE = 12
const LEAST_BLOCKS = 6
/** Down to here a tone is followed as it dies away, and the last part of that is where it rests. */
const FOLLOWED_DB = 26
const LAST_PART = 0.25
/** What falls less is recognised better by its spectrum, what falls farther is another tone. */
const LEAST_SEMITONES = 0.07
const MOST_SEMITONES = 3

/**
 * Where a tone that falls, as those of drums do, comes to rest: the mean of its frequency from moment to moment, each as it
 * is strong, over the last of what is heard of it. One that keeps its pitch, or rises, is left as it is.
 * Source: J. L. Flanagan and R. M. Golden, "Phase Vocoder" (1966): the frequency is how fast the phase turns.
 *
 * @param hz about what it is, as a mean over the whole
 * @returns Hz
 */
export function fallenFrom(hz: number, samples: Float32Array, sampleRate: number): number {
  const group = Math.max(1, Math.floor(sampleRate / hz / GROUPS_A_CYCLE))
  const block = Math.round(BLOCK_CYCLES * sampleRate / hz / group) * group
  if (samples.length < LEAST_BLOCKS * block) return hz
  const { real, imaginary } = moments(samples, 2 * Math.PI * hz / sampleRate, block, group)
  const strengths = real.map((value, i) => value ** 2 + imaginary[i]! ** 2)
  const least = Math.max(...strengths) * 10 ** (-FOLLOWED_DB / 10)
  const end = strengths.findLastIndex(strength => strength >= least)
  let [along, across] = [0, 0]
  for (let i = Math.max(0, Math.floor((end + 1) * (1 - LAST_PART)) - 1); i < end; i++) {
    along += real[i + 1]! * real[i]! + imaginary[i + 1]! * imaginary[i]!
    across += imaginary[i + 1]! * real[i]! - real[i + 1]! * imaginary[i]!
  }
  const rest = hz + Math.atan2(across, along) / (2 * Math.PI) * sampleRate / block
  const semitones = 12 * Math.log2(hz / rest)
  return semitones > LEAST_SEMITONES && semitones < MOST_SEMITONES ? rest : hz
}

/**
 * How a tone stands, block after block, to one that turns steadily; each over four blocks, the middle ones three times, so
 * that others count little.
 *
 * @param angle radians that the steady one turns by in a frame
 * @param group frames that are taken for one, since it hardly turns meanwhile
 */
function moments(samples: Float32Array, angle: number, block: number, group: number): { readonly real: Float64Array, readonly imaginary: Float64Array } {
  const count = Math.floor(samples.length / block)
  const [real, imaginary] = [new Float64Array(count), new Float64Array(count)]
  const [twiddleReal, twiddleImaginary] = [Math.cos(angle * group), -Math.sin(angle * group)]
  let [c, s] = [1, 0]
  for (let i = 0, frame = 0; i < count; i++) {
    let [sumReal, sumImaginary] = [0, 0]
    for (const end = frame + block; frame < end;) {
      let sum = 0
      for (const next = frame + group; frame < next; frame++) sum += samples[frame]!
      sumReal += sum * c
      sumImaginary += sum * s
      const turned = c * twiddleReal - s * twiddleImaginary
      s = c * twiddleImaginary + s * twiddleReal
      c = turned
    }
    real[i] = sumReal
    imaginary[i] = sumImaginary
  }
  const overFour = (values: Float64Array) => values.slice(3).map((last, i) => values[i]! + 3 * (values[i + 1]! + values[i + 2]!) + last)
  return { real: overFour(real), imaginary: overFour(imaginary) }
}
