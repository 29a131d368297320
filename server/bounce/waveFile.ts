import { open, type FileHandle } from 'node:fs/promises'
import { StereoEncoder, type StereoDepth } from '../../core/audio/wave/stereoEncoder'
import { waveStart } from '../../core/audio/wave/write'
import type { StereoBlock } from '../../core/render/workspace'

/** Two of them are held for each file; there may be a hundred and more. */
const PART_BYTES = 1 << 18

export interface WaveFileOptions {
  readonly sampleRate: number
  readonly depth: StereoDepth
  /** Of integers. */
  readonly gain: number
  /** Of the dither. */
  readonly seed: number
}

/** A stereo WAVE file that is written as its audio comes: while one part goes to the disk the next is filled. */
export class WaveFile {
  private frames = 0
  private filled = 0
  private part = new Uint8Array(PART_BYTES)
  private spare = new Uint8Array(PART_BYTES)
  private bytes: number
  private writing: Promise<unknown> = Promise.resolve()
  private readonly encoder: StereoEncoder

  private constructor(private readonly handle: FileHandle, private readonly options: WaveFileOptions) {
    this.encoder = new StereoEncoder(options.depth, options.seed)
    this.bytes = this.start().length
  }

  static async create(path: string, options: WaveFileOptions): Promise<WaveFile> {
    return new WaveFile(await open(path, 'wx'), options)
  }

  /** Frames so far. */
  get length(): number {
    return this.frames
  }

  /** The highest value before any gain, full scale at 1. */
  get highest(): number {
    return this.encoder.highest
  }

  /** Adds a block of at most as many frames as a part has room for; it waits only where the disk is slower than what comes. */
  async add([left, right]: StereoBlock): Promise<void> {
    if (this.filled + left.length * this.encoder.frameBytes > PART_BYTES) await this.flush()
    this.encoder.encode(left, right, this.options.gain, this.part, this.filled)
    this.filled += left.length * this.encoder.frameBytes
    this.frames += left.length
  }

  /** Writes what is left, and the beginning, which tells the length; flushed. Gives the size of the file in bytes. */
  async finish(): Promise<number> {
    await this.flush()
    await this.writing
    await this.handle.write(this.start(), 0, undefined, 0)
    await this.handle.sync()
    return this.bytes
  }

  /** Of a file that is not finished nothing is of use. */
  async close(): Promise<void> {
    await this.writing.catch(() => undefined)
    await this.handle.close()
  }

  private async flush(): Promise<void> {
    await this.writing
    const full = this.part.subarray(0, this.filled)
    this.writing = this.handle.write(full, 0, full.length, this.bytes)
    // Whoever comes next is told; until then a failure is nobody's.
    this.writing.catch(() => undefined)
    this.bytes += full.length
    this.filled = 0
    ;[this.part, this.spare] = [this.spare, this.part]
  }

  private start(): Uint8Array {
    return waveStart({ channelCount: 2, frames: this.frames, sampleRate: this.options.sampleRate, depth: this.options.depth })
  }
}
