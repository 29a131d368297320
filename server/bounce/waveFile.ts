import { close, fsync, openSync, writeSync } from 'node:fs'
import { promisify } from 'node:util'
import { TruePeakMeter } from '../../core/audio/analysis/truePeakMeter'
import { fromDb } from '../../core/audio/level'
import { StereoEncoder, type StereoDepth } from '../../core/audio/wave/stereoEncoder'
import { waveStart } from '../../core/audio/wave/write'
import { CEILING_DBTP } from '../../core/render/levelling'
import type { StereoBlock } from '../../core/render/workspace'

/** Held for each file; there may be a hundred and more. */
const PART_BYTES = 1 << 18

export interface WaveFileOptions {
  readonly sampleRate: number
  readonly depth: StereoDepth
  /** Of integers. */
  readonly gain: number
  /** Of the dither. */
  readonly seed: number
}

/** A stereo WAVE file that is written as its audio comes. For threads that do nothing else: it waits for the disk's cache. */
export class WaveFile {
  private frames = 0
  private filled = 0
  private readonly part = new Uint8Array(PART_BYTES)
  private bytes: number
  private readonly handle: number
  private readonly encoder: StereoEncoder
  private readonly meter = new TruePeakMeter(2, fromDb(CEILING_DBTP))

  /** Makes the file; there must be none. */
  constructor(path: string, private readonly options: WaveFileOptions) {
    this.handle = openSync(path, 'wx')
    this.encoder = new StereoEncoder(options.depth, options.seed)
    this.bytes = this.start().length
  }

  /** Frames so far. */
  get length(): number {
    return this.frames
  }

  /** The highest value before any gain, full scale at 1. */
  get highest(): number {
    return this.encoder.highest
  }

  /** Its true peak before any gain, when all has been added; never told below the ceiling of what is rendered. */
  get truePeak(): number {
    return this.meter.finish()
  }

  /** Adds a block of at most as many frames as a part has room for. */
  add([left, right]: StereoBlock): void {
    this.meter.add([left, right])
    const { frameBytes } = this.encoder
    if (this.filled + left.length * frameBytes > PART_BYTES) this.write()
    this.encoder.encode(left, right, this.options.gain, this.part, this.filled)
    this.filled += left.length * frameBytes
    this.frames += left.length
  }

  /** Writes what is left, and the beginning, which tells the length; flushed. Gives the size of the file in bytes. */
  async finish(): Promise<number> {
    this.write()
    writeAll(this.handle, this.start(), 0)
    await promisify(fsync)(this.handle)
    return this.bytes
  }

  /** Of a file that is not finished nothing is of use. */
  async close(): Promise<void> {
    await promisify(close)(this.handle)
  }

  private write(): void {
    writeAll(this.handle, this.part.subarray(0, this.filled), this.bytes)
    this.bytes += this.filled
    this.filled = 0
  }

  private start(): Uint8Array {
    return waveStart({ channelCount: 2, frames: this.frames, sampleRate: this.options.sampleRate, depth: this.options.depth })
  }
}

/** A disk that is nearly full takes less than it is given before it refuses. */
function writeAll(handle: number, bytes: Uint8Array, place: number): void {
  for (let done = 0; done < bytes.length;) done += writeSync(handle, bytes, done, bytes.length - done, place + done)
}
