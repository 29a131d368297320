import { TICKS_PER_QUARTER } from '../groove/document'
import type { PlayedPattern } from '../groove/played'
import type { NoteEvent } from './engine'

/** A beat to be clicked. */
export interface Click {
  readonly frame: number
  /** The first of a bar. */
  readonly isFirst: boolean
}

/** How playing begins. */
export interface Start {
  readonly bpm: number
  /** Bars that are counted before. */
  readonly countInBars?: number
  /** Where it begins, in ticks. */
  readonly fromTick?: number
  /** It ends with the pattern in place of beginning anew. */
  readonly isOnce?: boolean
}

/**
 * Tells which notes of a pattern that repeats fall due, block by block. Where each falls is worked out from the frame at which
 * the pattern began, so that nothing drifts however long it runs.
 */
export class Transport {
  private pattern: PlayedPattern | undefined
  private next: { readonly pattern: PlayedPattern, readonly bpm: number } | undefined
  private bpm = 120
  /** The frame, with a fraction, at which the pattern began, as if it had run at this tempo all along. */
  private beganAt = 0
  /** No note before this frame is played: where playing began, and where a pattern took over. */
  private openFrom = 0
  private isOnce = false

  constructor(private readonly sampleRate: number) {}

  get isRunning(): boolean {
    return this.pattern !== undefined
  }

  /** True while another pattern waits for the next bar. */
  get isChanging(): boolean {
    return this.next !== undefined
  }

  /** Begins at a frame. A pattern that runs is left. */
  start(pattern: PlayedPattern, { bpm, countInBars = 0, fromTick = 0, isOnce = false }: Start, frame: number): void {
    this.pattern = pattern
    this.next = undefined
    this.bpm = bpm
    this.isOnce = isOnce
    this.openFrom = frame + countInBars * pattern.barTicks * this.framesPerTick
    this.beganAt = this.openFrom - fromTick % pattern.lengthTicks * this.framesPerTick
  }

  stop(): void {
    this.pattern = undefined
    this.next = undefined
  }

  /** Goes on with other notes from the same place; of a pattern that waits for the next bar the notes are others then. Nothing happens where nothing runs. */
  change(pattern: PlayedPattern, bpm: number, frame: number): void {
    if (!this.pattern) return
    if (this.next) {
      this.next = { pattern, bpm }
      return
    }
    const place = this.placeAt(frame)!
    this.pattern = pattern
    this.setTempo(bpm, frame, place)
  }

  /** Lets another pattern take over with the next bar, at its own tempo. */
  changeAtBar(pattern: PlayedPattern, bpm: number): void {
    if (this.pattern) this.next = { pattern, bpm }
  }

  /** Goes on at another tempo from the same place. */
  setTempo(bpm: number, frame: number, place = this.placeAt(frame)): void {
    if (!this.pattern || place === null) {
      this.bpm = bpm
      return
    }
    const wait = Math.max(0, this.openFrom - frame) / this.framesPerTick
    this.bpm = bpm
    this.beganAt = frame - (place < 0 ? place : place % this.pattern.lengthTicks) * this.framesPerTick
    if (wait > 0) this.openFrom = frame + wait * this.framesPerTick
  }

  setOnce(isOnce: boolean): void {
    this.isOnce = isOnce
  }

  /** What is played from a frame on, up to one further on. Stretches must follow one another. */
  due(from: number, to: number): { readonly notes: NoteEvent[], readonly clicks: Click[] } {
    const notes: NoteEvent[] = []
    const clicks: Click[] = []
    let at = from
    while (this.pattern && at < to) {
      const change = this.next ? this.nextBarFrame(at) : Infinity
      const end = this.isOnce ? Math.round(this.beganAt + this.pattern.lengthTicks * this.framesPerTick) : Infinity
      const until = Math.min(to, change, end)
      this.collect(this.pattern, at, until, notes)
      this.collectClicks(this.pattern, at, until, clicks)
      at = until
      if (at === end && at <= to) this.stop()
      else if (at === change && at < to) this.takeNext(at)
    }
    return { notes, clicks }
  }

  /** Where in the pattern a frame is, in ticks; below 0 while it is counted in, null while nothing runs. */
  placeAt(frame: number): number | null {
    if (!this.pattern) return null
    const ticks = (frame - this.beganAt) / this.framesPerTick
    return ticks < 0 ? ticks : ticks % this.pattern.lengthTicks
  }

  /** How fast the place moves on. */
  get ticksPerSecond(): number {
    return this.bpm * TICKS_PER_QUARTER / 60
  }

  /** How often the pattern has begun anew by a frame. */
  passAt(frame: number): number {
    return this.pattern ? Math.max(0, Math.floor((frame - this.beganAt) / (this.pattern.lengthTicks * this.framesPerTick))) : 0
  }

  private takeNext(frame: number): void {
    this.pattern = this.next!.pattern
    this.bpm = this.next!.bpm
    this.next = undefined
    this.beganAt = frame
    this.openFrom = frame
  }

  private collect(pattern: PlayedPattern, from: number, to: number, notes: NoteEvent[]): void {
    const { ticks } = pattern
    const length = pattern.lengthTicks * this.framesPerTick
    const first = Math.floor((from - 1 - this.beganAt) / length)
    const last = Math.floor((to - this.beganAt) / length)
    for (let pass = first; pass <= last; pass++) {
      const base = this.beganAt + pass * length
      for (let i = firstAtOrAfter(ticks, (from - 1 - base) / this.framesPerTick); i < ticks.length; i++) {
        const frame = Math.round(base + ticks[i]! * this.framesPerTick)
        if (frame >= to) break
        if (frame < from || frame < Math.round(this.openFrom)) continue
        const note = pattern.notes[i]!
        const alternate = pattern.alternates[i]!
        notes.push({ frame, note, velocity: pattern.velocities[i]!, ...(alternate < 0 ? {} : { alternate }) })
        notes.push({ frame: frame + Math.max(1, Math.round(pattern.lengths[i]! * this.framesPerTick)), note, velocity: 0 })
      }
    }
  }

  private collectClicks({ lengthTicks, barTicks, beatTicks }: PlayedPattern, from: number, to: number, clicks: Click[]): void {
    const beat = beatTicks * this.framesPerTick
    for (let n = Math.ceil((from - 0.5 - this.beganAt) / beat); ; n++) {
      const frame = Math.round(this.beganAt + n * beat)
      if (frame >= to) return
      const tick = n * beatTicks
      const within = tick < 0 ? tick : tick % lengthTicks
      if (frame >= from) clicks.push({ frame, isFirst: within % barTicks === 0 })
    }
  }

  private nextBarFrame(from: number): number {
    const { lengthTicks, barTicks } = this.pattern!
    const length = lengthTicks * this.framesPerTick
    const pass = Math.max(0, Math.floor((from - this.beganAt) / length))
    const base = this.beganAt + pass * length
    const bar = Math.max(0, Math.ceil((from - 0.5 - base) / (barTicks * this.framesPerTick)))
    return Math.round(Math.min(base + bar * barTicks * this.framesPerTick, base + length))
  }

  private get framesPerTick(): number {
    return this.sampleRate * 60 / (this.bpm * TICKS_PER_QUARTER)
  }
}

/** The index of the first of sorted values that is not below another. */
function firstAtOrAfter(values: Float64Array, least: number): number {
  let [low, high] = [0, values.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (values[middle]! < least) low = middle + 1
    else high = middle
  }
  return low
}
