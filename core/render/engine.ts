import type { Kit } from '../kit/document'
import { noteOff, noteOn } from '../kit/voices'
import { preparePitchKernels } from './pitchKernels'
import { Voice, type PreparedSound } from './voice'

const CHOKE_FADE_SECONDS = 0.005
const RELEASE_FADE_SECONDS = 0.01

/** A note to be played at a frame of the engine's own clock. Velocity 0 is a note-off. */
export interface NoteEvent {
  readonly frame: number
  readonly note: number
  readonly velocity: number
}

/**
 * Plays a kit block by block. Live in an AudioWorklet and offline in a worker it is this same code, so that what is
 * heard is what is exported, to the sample.
 */
export class KitEngine {
  private kit: Kit | undefined
  private readonly sounds = new Map<string, PreparedSound>()
  private voices: Voice[] = []
  private queue: NoteEvent[] = []
  private nextId = 1
  private clock = 0

  constructor(readonly sampleRate: number) {
    preparePitchKernels()
  }

  /** Frames rendered so far. */
  get frame(): number {
    return this.clock
  }

  /** Voices that sound, fading ones with them. */
  get voiceCount(): number {
    return this.voices.length
  }

  /** True when nothing sounds and nothing is waiting. */
  get idle(): boolean {
    return this.voices.length === 0 && this.queue.length === 0
  }

  /** Takes a new state of the kit. Voices that sound go on as they began. */
  setKit(kit: Kit): void {
    this.kit = kit
  }

  setSound(id: string, sound: PreparedSound): void {
    this.sounds.set(id, sound)
  }

  removeSound(id: string): void {
    this.sounds.delete(id)
  }

  /** Puts notes into the queue. Those for a frame already past are played at once. */
  schedule(events: readonly NoteEvent[]): void {
    this.queue = [...this.queue, ...events].sort((a, b) => a.frame - b.frame)
  }

  /** Fades out all that sounds and forgets what was waiting. */
  stopAll(): void {
    this.queue = []
    for (const voice of this.voices) voice.fadeOut(this.frames(CHOKE_FADE_SECONDS))
  }

  /** Renders the next block over what `left` and `right` hold. Both are of one length. */
  process(left: Float32Array, right: Float32Array): void {
    left.fill(0)
    right.fill(0)
    let from = 0
    while (from < left.length) {
      this.playDueEvents(this.clock + from)
      const next = this.queue[0]
      const to = next ? Math.min(left.length, next.frame - this.clock) : left.length
      this.voices = this.voices.filter(voice => voice.mixInto(left, right, from, to))
      from = to
    }
    this.clock += left.length
  }

  private playDueEvents(frame: number): void {
    while (this.queue[0] && this.queue[0].frame <= frame) {
      const event = this.queue.shift()!
      if (event.velocity > 0) this.start(event)
      else this.fade(noteOff(this.running(), event.note), RELEASE_FADE_SECONDS)
    }
  }

  private start(event: NoteEvent): void {
    if (!this.kit) return
    const decision = noteOn(this.kit, this.running(), event.note, event.velocity)
    this.fade(decision.stops, CHOKE_FADE_SECONDS)
    for (const start of decision.starts) {
      const sound = this.sounds.get(start.soundId)
      if (sound) this.voices.push(new Voice(this.nextId++, start, sound, this.sampleRate))
    }
  }

  private running(): Voice[] {
    return this.voices.filter(voice => !voice.fading)
  }

  private fade(ids: readonly number[], seconds: number): void {
    if (ids.length === 0) return
    for (const voice of this.voices) {
      if (ids.includes(voice.id)) voice.fadeOut(this.frames(seconds))
    }
  }

  private frames(seconds: number): number {
    return Math.max(1, Math.round(seconds * this.sampleRate))
  }
}
