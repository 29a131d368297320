import type { Envelope } from '../kit/document'

/** What a fall of 60 dB leaves, as a power of ten. */
const FALL = -3
/** Below this, 100 dB down, a hit is over. */
const SILENCE = 1e-5

/**
 * The level of one hit, frame by frame: up in a straight line, held, then falling evenly in dB, and falling faster once it
 * was let go. Times of falling are those for 60 dB, as reverberation times are given (ISO 3382).
 */
export class HitEnvelope {
  private frame = 0
  private decayed = 1
  private released = 1
  private isReleased = false
  private readonly attackFrames: number
  private readonly steadyFrames: number
  private readonly decayStep: number
  private readonly releaseStep: number

  constructor({ attackSeconds, holdSeconds, decaySeconds, releaseSeconds }: Envelope, sampleRate: number) {
    this.attackFrames = Math.round(attackSeconds * sampleRate)
    this.steadyFrames = this.attackFrames + Math.round(holdSeconds * sampleRate)
    this.decayStep = decaySeconds === null ? 1 : 10 ** (FALL / (decaySeconds * sampleRate))
    this.releaseStep = 10 ** (FALL / (releaseSeconds * sampleRate))
  }

  /** True while every frame to come is at full level. */
  get isPlain(): boolean {
    return !this.isReleased && this.decayStep === 1 && this.frame >= this.attackFrames
  }

  /** True when nothing more is heard. */
  get isOver(): boolean {
    return this.decayed * this.released < SILENCE
  }

  release(): void {
    this.isReleased = true
  }

  /** Shapes the first `count` samples of each channel in place. */
  run(channels: readonly Float32Array[], count: number): void {
    if (this.isPlain) {
      this.frame += count
      return
    }
    for (let i = 0; i < count; i++) {
      const rise = this.frame < this.attackFrames ? this.frame / this.attackFrames : 1
      const level = rise * this.decayed * this.released
      for (const channel of channels) channel[i]! *= level
      this.frame++
      if (this.frame > this.steadyFrames) this.decayed *= this.decayStep
      if (this.isReleased) this.released *= this.releaseStep
    }
  }
}
