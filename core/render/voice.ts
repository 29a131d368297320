import { interpolate } from '../audio/sinc'
import type { RunningVoice, VoiceStart } from '../kit/voices'
import { pitchKernel } from './pitchKernels'

/** A sound made ready for an engine: its channels at the engine's own sample rate. */
export interface PreparedSound {
  readonly channels: readonly Float32Array[]
  /** Rate that the sound came in, in which a kit counts its start and end. */
  readonly sourceRate: number
}

/** One sounding layer. */
export class Voice implements RunningVoice {
  readonly note: number
  readonly chokeGroup: number | null
  readonly gated: boolean
  private played = 0
  private readonly first: number
  private readonly span: number
  private fadeLeft = 0
  private fadeFrames = 0

  constructor(readonly id: number, private readonly start: VoiceStart, private readonly sound: PreparedSound, engineRate: number) {
    this.note = start.note
    this.chokeGroup = start.chokeGroup
    this.gated = start.gated
    const frames = sound.channels[0]?.length ?? 0
    const scale = engineRate / sound.sourceRate
    this.first = Math.min(Math.round(start.startFrame * scale), frames)
    this.span = Math.min(Math.round(start.endFrame * scale), frames) - this.first
  }

  get fading(): boolean {
    return this.fadeFrames > 0
  }

  /** Fades out over so many frames; a fade under way is not drawn out. */
  fadeOut(frames: number): void {
    if (this.fading) return
    this.fadeFrames = frames
    this.fadeLeft = frames
  }

  /**
   * Adds this voice to `left` and `right`, from index `from` to before `to`.
   *
   * @returns false when it has ended
   */
  mixInto(left: Float32Array, right: Float32Array, from: number, to: number): boolean {
    const { pitchRatio, reverse, gainLeft, gainRight } = this.start
    const [leftIn, rightIn = leftIn] = this.sound.channels
    if (!leftIn || !rightIn) return false
    const exact = pitchRatio === 1
    const kernel = pitchKernel(pitchRatio)
    const mono = rightIn === leftIn
    for (let i = from; i < to; i++) {
      const along = this.played * pitchRatio
      if (along >= this.span) return false
      if (this.fading && this.fadeLeft === 0) return false
      const position = reverse ? this.first + this.span - 1 - along : this.first + along
      const l = exact ? leftIn[position]! : interpolate(leftIn, position, kernel)
      const r = mono ? l : exact ? rightIn[position]! : interpolate(rightIn, position, kernel)
      const fade = this.fading ? this.fadeLeft-- / this.fadeFrames : 1
      left[i]! += l * gainLeft * fade
      right[i]! += r * gainRight * fade
      this.played++
    }
    return true
  }
}
