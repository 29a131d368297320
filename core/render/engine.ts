import { mulberry32 } from '../audio/dither'
import { articulationOfKey, firstInForce, stillInForce, withInForce, type InForce } from '../kit/articulations'
import type { Kit } from '../kit/document'
import { noteOff, noteOn, soundsOn } from '../kit/voices'
import { preparePitchKernels } from './pitchKernels'
import { Voice, type PreparedSound } from './voice'
import { MOST_FRAMES, workspace, type StereoBlock } from './workspace'

/** Short enough to be at once, long enough not to click. */
const CHOKE_FADE_SECONDS = 0.005
/** Chance begins the same each time, so that what is heard is what is exported. */
const CHANCE_SEED = 1

/** A note to be played at a frame of the engine's own clock. Velocity 0 is a note-off. */
export interface NoteEvent {
  readonly frame: number
  readonly note: number
  readonly velocity: number
  /** Chooses among the alternates of a pad, in place of the pad's own value. */
  readonly alternate?: number
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
  private readonly hits = new Map<string, number>()
  private chance = mulberry32(CHANCE_SEED)
  private inForce: InForce = new Map()
  /** What was in force before a key was held that lasts as long as it is, by that key. */
  private readonly before = new Map<number, string>()
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
    const isChosenAnew = this.kit !== undefined && this.kit.articulation !== kit.articulation
    this.kit = kit
    this.inForce = isChosenAnew ? firstInForce(kit) : stillInForce(kit, this.inForce)
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

  /** Layers that take turns begin with the first again, and chance as it began. */
  forgetTurns(): void {
    this.hits.clear()
    this.chance = mulberry32(CHANCE_SEED)
  }

  /** Fades out all that sounds and forgets what was waiting; layers that take turns begin with the first. */
  stopAll(): void {
    this.queue = []
    this.forgetTurns()
    for (const voice of this.voices) voice.fadeOut(this.frames(CHOKE_FADE_SECONDS))
  }

  /**
   * Renders the next block over what the outputs hold, all of one length: one for each output of the kit, null for those that
   * nobody wants. A voice whose output is not among them is heard in the first.
   */
  process(outputs: readonly (StereoBlock | null)[]): void {
    const frames = outputs.find(output => output !== null)?.[0].length ?? 0
    for (let done = 0; done < frames; done += MOST_FRAMES) {
      const count = Math.min(MOST_FRAMES, frames - done)
      workspace().openBuses(outputs.length, count)
      for (let from = 0; from < count;) {
        this.playDueEvents(this.clock + from)
        this.releaseIdle(this.clock + count)
        const next = this.queue[0]
        const to = next ? Math.min(count, next.frame - this.clock) : count
        this.mix(outputs, from, to)
        from = to
      }
      for (const [bus, output] of outputs.entries()) if (output) workspace().takeBus(bus, output, done)
      this.clock += count
    }
  }

  private mix(outputs: readonly (StereoBlock | null)[], from: number, to: number): void {
    let kept = 0
    for (const voice of this.voices) {
      const bus = voice.outputIndex < outputs.length ? voice.outputIndex : 0
      if (voice.mixInto(outputs[bus] === null ? null : bus, from, to)) this.voices[kept++] = voice
    }
    this.voices.length = kept
  }

  private playDueEvents(frame: number): void {
    while (this.queue[0] && this.queue[0].frame <= frame) {
      const event = this.queue.shift()!
      this.switchArticulation(event)
      if (event.velocity > 0) this.start(event)
      else this.release(noteOff(this.running(), event.note))
    }
  }

  /** Forgets the next events before a frame that change nothing, so that no block is split for them: keys let go that nothing is held by. */
  private releaseIdle(before: number): void {
    while (this.queue[0] && this.queue[0].frame < before && this.isIdle(this.queue[0])) this.queue.shift()
  }

  private isIdle({ note, velocity }: NoteEvent): boolean {
    return velocity === 0 && !this.before.has(note) && !this.kit?.pads.some(pad => pad.play === 'gated' && soundsOn(pad, note)) && !this.voices.some(voice => voice.gated && voice.note === note)
  }

  /** A key may bring an articulation into force, for good or while it is held. */
  private switchArticulation({ note, velocity }: NoteEvent): void {
    const articulation = this.kit && articulationOfKey(this.kit, note)
    if (!articulation) return
    if (velocity > 0) {
      const former = this.inForce
      this.inForce = withInForce(former, articulation.id)
      if (articulation.whileHeld && former !== this.inForce) for (const [scope, id] of former) if (this.inForce.get(scope) !== id) this.before.set(note, id)
      return
    }
    const former = this.before.get(note)
    this.before.delete(note)
    if (former === undefined) return
    // A key pressed after this one goes back past it, as it is no longer held.
    for (const [key, id] of this.before) if (id === articulation.id) this.before.set(key, former)
    if ([...this.inForce.values()].includes(articulation.id)) this.inForce = withInForce(this.inForce, former)
  }

  private start(event: NoteEvent): void {
    if (!this.kit) return
    const { note, velocity, alternate } = event
    const { starts, chokes, stops, counted } = noteOn(this.kit, this.running(), note, velocity, { hits: this.hits, alternate, chance: this.chance(), inForce: this.inForce })
    for (const key of counted) this.hits.set(key, (this.hits.get(key) ?? 0) + 1)
    this.fade(chokes)
    this.fade(stops, CHOKE_FADE_SECONDS)
    for (const start of starts) {
      const sound = this.sounds.get(start.soundId)
      if (sound) this.voices.push(new Voice(this.nextId++, start, sound, this.sampleRate))
    }
  }

  private running(): Voice[] {
    return this.voices.filter(voice => !voice.fading)
  }

  /** Fades voices out, over a time or over what each has for being choked. */
  private fade(ids: readonly number[], seconds?: number): void {
    if (ids.length === 0) return
    // One that was taken on the very frame on which it began has never sounded, and is never heard.
    this.voices = this.voices.filter(voice => voice.playedFrames > 0 || !ids.includes(voice.id))
    for (const voice of this.voices) {
      if (ids.includes(voice.id)) voice.fadeOut(this.frames(seconds ?? Math.max(CHOKE_FADE_SECONDS, voice.chokeSeconds)))
    }
  }

  private release(ids: readonly number[]): void {
    for (const voice of this.voices) {
      if (ids.includes(voice.id)) voice.release()
    }
  }

  private frames(seconds: number): number {
    return Math.max(1, Math.round(seconds * this.sampleRate))
  }
}
