import { open, type FileHandle } from 'node:fs/promises'
import { tpdfDither } from '../../core/audio/dither'
import { encodeFrames, waveStart, type WaveDepth } from '../../core/audio/wave/write'
import type { StereoBlock } from '../../core/render/voice'

const PART_FRAMES = 65_536

/**
 * Rendered stereo audio on its way to a file: written as it comes, in 32-bit float, and read again to be brought into its format. It
 * lies there in parts of `PART_FRAMES`, the left channel of each before the right.
 */
export class RawFile {
  private frames = 0
  private peak = 0
  private filled = 0
  private readonly part = new Float32Array(PART_FRAMES * 2)

  private constructor(private readonly handle: FileHandle) {}

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

  /** Adds a block of any length. */
  async add(block: StereoBlock): Promise<void> {
    const length = block[0].length
    for (let done = 0; done < length;) {
      const count = Math.min(length - done, PART_FRAMES - this.filled)
      for (const side of [0, 1] as const) {
        const samples = block[side].subarray(done, done + count)
        this.part.set(samples, side * PART_FRAMES + this.filled)
        for (let i = 0; i < count; i++) {
          const value = Math.abs(samples[i]!)
          if (value > this.peak) this.peak = value
        }
      }
      done += count
      this.filled += count
      this.frames += count
      if (this.filled === PART_FRAMES) await this.flush()
    }
  }

  private async flush(): Promise<void> {
    if (this.filled === 0) return
    await this.handle.write(new Uint8Array(this.part.buffer))
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
        await this.handle.read(new Uint8Array(part.buffer), 0, part.byteLength, done * 8)
        if (gain !== 1) for (let i = 0; i < part.length; i++) part[i]! *= gain
        const encoded = encodeFrames([part.subarray(0, frames), part.subarray(PART_FRAMES, PART_FRAMES + frames)], { depth, dither })
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
