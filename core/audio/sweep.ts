import { piecesOf } from './pieces'
import { SWEEP_KERNEL } from './sweepKernel'

interface Kernel {
  readonly peaks: (input: number, count: number, step: number, out: number) => void
  readonly extremes: (input: number, count: number, out: number) => void
  readonly outline: (input: number, first: number, last: number, columns: number, frames: number, out: number) => void
  readonly swings: (input: number, count: number, keep: number, number: number, before: number, from: number, state: number) => void
  readonly clearNegativeZeros: (input: number, count: number) => void
  readonly crossings: (input: number, count: number) => number
  readonly sum: (input: number, count: number) => number
  readonly squares: (input: number, count: number) => number
  readonly energies: (input: number, count: number, step: number, out: number) => void
  readonly pair: (left: number, right: number, count: number, out: number) => void
  readonly means: (left: number, right: number, count: number) => void
}

const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Samples that are gone through at a time: they stay in the processor's cache. */
const PIECE = 16_384
const PAGES = 2
/** Where of two channels the second lies, in samples. */
const OTHER = PIECE / 2

let opened: { readonly kernel: Kernel, readonly floats: Float32Array } | undefined

/** The passes over all samples, in WebAssembly with SIMD: a tenth of the time of the same in plain code. */
function open() {
  if (opened) return opened
  const memory = new WebAssembly.Memory({ initial: PAGES })
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(SWEEP_KERNEL), { sweep: { memory } })
  opened = { kernel: exports as unknown as Kernel, floats: new Float32Array(memory.buffer, 0, PAGES * PAGE_BYTES / FLOAT_BYTES) }
  return opened
}

/** Goes through two channels piece by piece; each piece of the first lies at the beginning of the memory, of the other at `OTHER`. */
function inPairs(left: Float32Array, right: Float32Array, go: (count: number, from: number) => void): void {
  const { floats } = open()
  for (let at = 0; at < left.length; at += OTHER) {
    const count = Math.min(OTHER, left.length - at)
    floats.set(left.subarray(at, at + count))
    floats.set(right.subarray(at, at + count), OTHER)
    go(count, at)
  }
}

/** Goes through a stretch piece by piece; each lies at the beginning of the memory. */
function inPieces(channel: Float32Array, from: number, to: number, go: (count: number) => void): void {
  const { floats } = open()
  for (let at = from; at < to; at += PIECE) {
    const count = Math.min(PIECE, to - at)
    floats.set(channel.subarray(at, at + count))
    go(count)
  }
}

/** Raises each value to the highest absolute sample of its step, where that is higher. */
export function raiseToPeaks(values: Float32Array, channel: Float32Array, framesPerStep: number): void {
  const { kernel, floats } = open()
  for (const { from, count, firstStep, steps } of piecesOf(channel.length, framesPerStep, PIECE, PIECE)) {
    floats.set(channel.subarray(from, from + count))
    floats.set(values.subarray(firstStep, firstStep + steps), PIECE)
    kernel.peaks(0, count, framesPerStep, PIECE * FLOAT_BYTES)
    values.set(floats.subarray(PIECE, PIECE + steps), firstStep)
  }
}

/**
 * The lowest and the highest sample over all channels of each of so many equal parts, in turn; at most and at least 0. Where
 * there are more parts than samples, neighbours share them.
 */
export function outlineOf(channels: readonly Float32Array[], columns: number): Float32Array {
  const { kernel, floats } = open()
  const found = new Float32Array(2 * columns)
  const frames = channels[0]?.length ?? 0
  const edge = (column: number) => Math.floor(column * frames / columns)
  const together = Math.min(PIECE / 2, Math.floor((PIECE - 1) * columns / frames))
  for (const channel of frames > 0 ? channels : []) {
    for (let first = 0, last = 0; first < columns; first = last) {
      last = Math.min(columns, first + Math.max(1, together))
      const [from, to] = [edge(first), Math.max(edge(first) + 1, edge(last))]
      floats.set(found.subarray(2 * first, 2 * last), PIECE)
      inPieces(channel, from, to, (count) => {
        if (together < 1) kernel.extremes(0, count, PIECE * FLOAT_BYTES)
        else kernel.outline(0, first, last, columns, frames, PIECE * FLOAT_BYTES)
      })
      found.set(floats.subarray(PIECE, PIECE + 2 * (last - first)), 2 * first)
    }
  }
  return found
}

/**
 * How often what two low-passes in a row leave of a channel passes from one side of zero to the other, from one sample on: in the
 * first `early` samples, and from `late` samples after it until the stretch ends; its beginning counts as one.
 *
 * @param keep what stays of the last value of a low-pass from sample to sample
 */
export function swingsOf(channel: Float32Array, keep: number, from: number, to: number, early: number, late: number): readonly [early: number, late: number] {
  const { kernel, floats } = open()
  const state = new Float64Array(floats.buffer, PIECE * FLOAT_BYTES, 5).fill(0)
  let number = 0
  inPieces(channel, from, to, (count) => {
    kernel.swings(0, count, keep, number, early, late, PIECE * FLOAT_BYTES)
    number += count
  })
  return [state[3]!, state[4]!]
}

/** A channel's samples piece by piece, negative zeros as zeros. A piece holds until the next is asked for, and no other pass may come between. */
export function* plainPieces(channel: Float32Array): Generator<Float32Array> {
  const { kernel, floats } = open()
  for (let at = 0; at < channel.length; at += PIECE) {
    const count = Math.min(PIECE, channel.length - at)
    floats.set(channel.subarray(at, at + count))
    kernel.clearNegativeZeros(0, count)
    yield floats.subarray(0, count)
  }
}

/** How often the samples of a stretch pass from one side of zero to the other; zero itself counts as below. */
export function crossingsOf(channel: Float32Array, from: number, to: number): number {
  const { kernel, floats } = open()
  let found = 0
  // Pieces share a sample: between two of them there may be a crossing too.
  for (let at = from; at + 1 < to; at += PIECE - 1) {
    const count = Math.min(PIECE, to - at)
    floats.set(channel.subarray(at, at + count))
    found += kernel.crossings(0, count)
  }
  return found
}

/** Sum of the samples of a stretch. */
export function sumOf(channel: Float32Array, from: number, to: number): number {
  const { kernel } = open()
  let sum = 0
  inPieces(channel, from, to, count => sum += kernel.sum(0, count))
  return sum
}

/** Sum of the squares of a channel's samples. */
export function energyOf(channel: Float32Array): number {
  const { kernel } = open()
  let sum = 0
  inPieces(channel, 0, channel.length, count => sum += kernel.squares(0, count))
  return sum
}

/** Sums of the squares of all channels' samples, for each step of a stretch. */
export function stepEnergiesOf(channels: readonly Float32Array[], framesPerStep: number, fromFrame: number, toFrame: number): Float64Array {
  const { kernel, floats } = open()
  const energies = new Float64Array(Math.ceil(Math.max(0, toFrame - fromFrame) / framesPerStep))
  const found = new Float64Array(floats.buffer, PIECE * FLOAT_BYTES, PIECE / 2)
  for (const channel of channels) {
    const stretch = channel.subarray(fromFrame, toFrame)
    for (const { from, count, firstStep, steps } of piecesOf(stretch.length, framesPerStep, PIECE, found.length)) {
      floats.set(stretch.subarray(from, from + count))
      found.set(energies.subarray(firstStep, firstStep + steps))
      kernel.energies(0, count, framesPerStep, PIECE * FLOAT_BYTES)
      energies.set(found.subarray(0, steps), firstStep)
    }
  }
  return energies
}

/** Energies of two channels of one length, and how much of them goes together: the sum of their products. */
export function energiesOfPair(left: Float32Array, right: Float32Array): { readonly left: number, readonly right: number, readonly product: number } {
  const { kernel, floats } = open()
  const sums = new Float64Array(floats.buffer, PIECE * FLOAT_BYTES, 3).fill(0)
  inPairs(left, right, count => kernel.pair(0, OTHER * FLOAT_BYTES, count, PIECE * FLOAT_BYTES))
  return { left: sums[0]!, right: sums[1]!, product: sums[2]! }
}

/** The mean of two channels of one length. */
export function meanOfPair(left: Float32Array, right: Float32Array): Float32Array {
  const { kernel, floats } = open()
  const mean = new Float32Array(left.length)
  inPairs(left, right, (count, from) => {
    kernel.means(0, OTHER * FLOAT_BYTES, count)
    mean.set(floats.subarray(0, count), from)
  })
  return mean
}
