import type { RunningVoice, VoiceStart } from '../kit/voices'
import { Biquad } from './biquad'
import { drive } from './drive'
import { fadeEdges } from './edges'
import { HitEnvelope } from './hitEnvelope'
import { pitchKernel } from './pitchKernels'
import { workspace } from './workspace'

/** A sound made ready for an engine: its channels at the engine's own sample rate. */
export interface PreparedSound {
  readonly channels: readonly Float32Array[]
  /** Rate that the sound came in, in which a kit counts its start and end. */
  readonly sourceRate: number
}

/** One sounding layer: its sound is read at its pitch, filtered, driven, shaped by the envelope, and mixed in. */
export class Voice implements RunningVoice {
  readonly padIndex: number
  readonly note: number
  readonly chokeGroup: number | null
  readonly chokedBy: readonly number[]
  readonly chokeSeconds: number
  readonly gated: boolean
  readonly outputIndex: number
  private played = 0
  private readonly channels: readonly Float32Array[]
  private readonly first: number
  private readonly span: number
  private readonly fadeIn: number
  private readonly fadeOutAtEnd: number
  private readonly envelope: HitEnvelope
  private readonly filters: readonly Biquad[]
  private cutLeft = 0
  private cutFrames = 0

  constructor(readonly id: number, private readonly start: VoiceStart, sound: PreparedSound, engineRate: number) {
    this.padIndex = start.padIndex
    this.note = start.note
    this.chokeGroup = start.chokeGroup
    this.chokedBy = start.chokedBy
    this.chokeSeconds = start.chokeSeconds
    this.gated = start.gated
    this.outputIndex = start.outputIndex
    this.channels = sound.channels.slice(0, 2)
    const frames = sound.channels[0]?.length ?? 0
    const scale = engineRate / sound.sourceRate
    this.first = Math.min(Math.round(start.startFrame * scale), frames)
    this.span = Math.min(Math.round(start.endFrame * scale), frames) - this.first
    this.fadeIn = Math.round(start.fadeInFrames * scale)
    this.fadeOutAtEnd = Math.round(start.fadeOutFrames * scale)
    this.envelope = new HitEnvelope(start.envelope, engineRate)
    this.filters = start.filter ? this.channels.map(() => new Biquad(start.filter!, engineRate)) : []
  }

  /** True once it was cut off; it sounds a few milliseconds more. */
  get fading(): boolean {
    return this.cutFrames > 0
  }

  /** Frames that it gave out so far. */
  get playedFrames(): number {
    return this.played
  }

  /** Cuts it off within so many frames; a cut under way is not drawn out. */
  fadeOut(frames: number): void {
    if (this.fading) return
    this.cutFrames = frames
    this.cutLeft = frames
  }

  /** Lets it go as its envelope says. */
  release(): void {
    this.envelope.release()
  }

  /**
   * Adds this voice to a bus of the workspace, from frame `from` to before `to`; up to `MOST_FRAMES`. Without a bus it goes on
   * unheard.
   *
   * @returns false when it has ended
   */
  mixInto(bus: number | null, from: number, to: number): boolean {
    const toEnd = Math.max(0, Math.ceil(this.span / this.start.pitchRatio - this.played))
    const count = Math.min(to - from, toEnd, this.fading ? this.cutLeft : Infinity)
    const { length } = this.channels
    if (length === 0) return false
    if (bus === null) {
      this.envelope.run([], count)
      if (this.fading) this.cutLeft -= count
    }
    else if (count > 0) {
      this.read(count)
      if (!this.isPlain) this.shape(workspace().channelsToWorkIn(length), count)
      workspace().add(bus, from, count, length, this.start.gainLeft, this.start.gainRight)
    }
    this.played += count
    return count === to - from && !this.envelope.isOver
  }

  /** True while nothing is done to the sound but to set its level. */
  private get isPlain(): boolean {
    return this.filters.length === 0 && this.start.driveDb <= 0 && this.fadeIn === 0 && this.fadeOutAtEnd === 0 && !this.fading && this.envelope.isPlain
  }

  /** Reads the next frames of the sound at the voice's pitch into the channels to work in. */
  private read(count: number): void {
    const { pitchRatio, reverse } = this.start
    const { channels } = this
    const step = reverse ? -pitchRatio : pitchRatio
    const from = (reverse ? this.first + this.span - 1 : this.first) + this.played * step
    if (pitchRatio !== 1) return workspace().read(channels, count, from, step, pitchKernel(pitchRatio))
    if (!reverse) return workspace().copy(channels, from, count)
    const work = workspace().channelsToWorkIn(channels.length)
    channels.forEach((channel, c) => {
      for (let i = 0; i < count; i++) work[c]![i] = channel[from - i]!
    })
  }

  private shape(channels: readonly Float32Array[], count: number): void {
    const { pitchRatio, reverse, driveDb } = this.start
    const along = this.played * pitchRatio
    fadeEdges(channels, { from: reverse ? this.span - 1 - along : along, step: reverse ? -pitchRatio : pitchRatio, count, span: this.span, fadeIn: this.fadeIn, fadeOut: this.fadeOutAtEnd })
    for (let i = 0; i < channels.length; i++) {
      this.filters[i]?.run(channels[i]!, count)
      drive(channels[i]!, count, driveDb)
    }
    this.envelope.run(channels, count)
    if (this.fading) this.cut(channels, count)
  }

  private cut(channels: readonly Float32Array[], count: number): void {
    for (let i = 0; i < count; i++) {
      const level = this.cutLeft-- / this.cutFrames
      for (const channel of channels) channel[i]! *= level
    }
  }
}
