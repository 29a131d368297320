import { open, type FileHandle } from 'node:fs/promises'
import { tpdfDither } from '../../core/audio/dither'
import { encodeFrames, waveStart, type WaveDepth } from '../../core/audio/wave/write'
import type { StereoBlock } from '../../core/render/voice'

const PART_FRAMES = 65_536

/** Rendered stereo audio on its way to a file: written as it comes, in 32-bit float, and read again to be brought into its format. */
export class RawFile {
  private frames = 0
  private peak = 0
  private waiting: Float32Array
  private filled = 0

  private constructor(private readonly handle: FileHandle) {
    this.waiting = new Float32Array(PART_FRAMES * 2)
  }

  static async create(path: string): Promise<RawFile> {
    return new RawFile(await open(path, 'wx+'))
  }

  get length(): number {
    return this.frames
  }

  /** The highest value, full scale at 1. */
  get highest(): number {
    return this.peak
  }

  /** True when it should be flushed before more is added. */
  get isFull(): boolean {
    return this.filled + 2_048 > this.waiting.length
  }

  /** Adds a block of at most 1,024 frames. */
  add([left, right]: StereoBlock): void {
    for (let i = 0; i < left.length; i++) {
      const [l, r] = [left[i]!, right[i]!]
      this.waiting[this.filled++] = l
      this.waiting[this.filled++] = r
      this.peak = Math.max(this.peak, Math.abs(l), Math.abs(r))
    }
    this.frames += left.length
  }

  async flush(): Promise<void> {
    if (this.filled === 0) return
    await this.handle.write(new Uint8Array(this.waiting.buffer, 0, this.filled * 4))
    this.filled = 0
  }

  /** Writes all of it as a WAVE file, flushed. Integers are dithered. Gives its size in bytes. */
  async writeWave(path: string, sampleRate: number, depth: WaveDepth, gain: number, seed: number): Promise<number> {
    await this.flush()
    const out = await open(path, 'wx')
    try {
      const start = waveStart({ channelCount: 2, frames: this.frames, sampleRate, depth })
      await out.write(start)
      let bytes = start.length
      const dither = depth === 'float' ? undefined : tpdfDither(seed)
      const part = new Float32Array(PART_FRAMES * 2)
      for (let done = 0; done < this.frames; done += PART_FRAMES) {
        const frames = Math.min(PART_FRAMES, this.frames - done)
        await this.handle.read(new Uint8Array(part.buffer, 0, frames * 8), 0, frames * 8, done * 8)
        const [left, right] = [new Float32Array(frames), new Float32Array(frames)]
        for (let i = 0; i < frames; i++) {
          left[i] = part[i * 2]! * gain
          right[i] = part[i * 2 + 1]! * gain
        }
        const encoded = encodeFrames([left, right], { depth, dither })
        await out.write(encoded)
        bytes += encoded.length
      }
      if (bytes % 2 === 1) await out.write(new Uint8Array(1))
      await out.sync()
      return bytes + bytes % 2
    }
    finally {
      await out.close()
    }
  }

  async close(): Promise<void> {
    await this.handle.close()
  }
}
