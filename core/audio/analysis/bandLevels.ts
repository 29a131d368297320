import { fromDb } from '../level'
import { BANDS, type BandPowers } from './bands'
import { BAND_LEVELS_KERNEL } from './bandLevelsKernel'

interface Kernel {
  readonly levels: (at: number, count: number, inside: number, outside: number) => void
  readonly meanOfHighest: (input: number, count: number, kept: number, top: number) => number
  readonly flux: (levels: number, frames: number, bands: number, kept: number, rises: number, top: number, out: number) => void
}

/** How many bands, the strongest, speak for all of them. */
const BANDS_OF_FLUX = 6
const PAGE_BYTES = 65_536
const FLOAT_BYTES = 4
/** Where things lie, in bytes: room to sort in, the rises of one frame, then a row of levels for each frame, and the flux. */
const TOP_AT = 0
const RISES_AT = BANDS * FLOAT_BYTES
const LEVELS_AT = 2 * BANDS * FLOAT_BYTES

/** The levels of bands over time, 0 at a floor to 1 at the loudest moment of the loudest band. It holds until the next is made. */
export interface BandLevels {
  /** Of each frame the mean of the strongest rises since the frame before: a struck tone fills few bands, noise fills them all. */
  readonly flux: Float32Array
  /** Mean of the `kept` highest levels of a frame, in bands from one to before another. */
  readonly meanOfHighest: (frame: number, fromBand: number, toBand: number, kept: number) => number
}

let opened: { readonly kernel: Kernel, readonly memory: WebAssembly.Memory } | undefined

function open() {
  if (opened) return opened
  const memory = new WebAssembly.Memory({ initial: 1 })
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(BAND_LEVELS_KERNEL), { bandLevels: { memory } })
  return opened = { kernel: exports as unknown as Kernel, memory }
}

/**
 * Levels of the bands of a sound.
 *
 * @param rangeDb how far below the loudest moment the floor lies
 */
export function bandLevelsOf({ values, frames, loudest }: BandPowers, rangeDb: number): BandLevels {
  const { kernel, memory } = open()
  const fluxAt = LEVELS_AT + values.byteLength
  const missing = fluxAt + frames * FLOAT_BYTES - memory.buffer.byteLength
  if (missing > 0) memory.grow(Math.ceil(missing / PAGE_BYTES))
  new Float32Array(memory.buffer, LEVELS_AT, values.length).set(values)
  const floor = loudest * fromDb(-rangeDb) ** 2
  kernel.levels(LEVELS_AT, values.length, 1 / floor, 1 / Math.log(1 + loudest / floor))
  if (frames > 0) kernel.flux(LEVELS_AT, frames, BANDS, BANDS_OF_FLUX, RISES_AT, TOP_AT, fluxAt)
  return {
    flux: new Float32Array(memory.buffer, fluxAt, frames),
    meanOfHighest: (frame, fromBand, toBand, kept) => kernel.meanOfHighest(LEVELS_AT + (frame * BANDS + fromBand) * FLOAT_BYTES, toBand - fromBand, Math.min(kept, toBand - fromBand), TOP_AT),
  }
}
