import type { Pattern } from '../groove/pattern'
import type { NoteEvent } from './engine'

/**
 * Tells which notes of a repeating pattern fall due, block by block. Where each falls is worked out from the beginning, so that
 * nothing drifts however long it runs. Another pattern or tempo takes over at the place in the bar where the first was.
 */
export class PatternClock {
  private pattern: Pattern | undefined
  private bpm = 120
  /** The frame, with a fraction, at which the pattern began, as if it had run at this tempo all along. */
  private beganAt = 0
  private isFresh = true

  constructor(private readonly sampleRate: number) {}

  /** Takes a pattern and a tempo in beats a minute; undefined stops it. */
  set(pattern: Pattern | undefined, bpm: number, frame: number): void {
    if (pattern && this.pattern) {
      const beat = this.beatAt(frame) % this.pattern.beats
      this.bpm = bpm
      this.beganAt = frame - beat % pattern.beats * this.framesPerBeat
      this.isFresh = false
    }
    else {
      this.bpm = bpm
      this.beganAt = frame
      this.isFresh = true
    }
    this.pattern = pattern
  }

  /** The notes from a frame on, up to one further on. Stretches must follow one another. */
  due(fromFrame: number, toFrame: number): NoteEvent[] {
    const { pattern } = this
    if (!pattern || pattern.beats <= 0) return []
    const length = pattern.beats * this.framesPerBeat
    const found: NoteEvent[] = []
    const first = Math.max(this.isFresh ? 0 : -1, Math.floor((fromFrame - 1 - this.beganAt) / length))
    const last = Math.floor((toFrame - this.beganAt) / length)
    for (let round = first; round <= last; round++) {
      for (const { beat, note, velocity } of pattern.notes) {
        const frame = Math.round(this.beganAt + round * length + beat * this.framesPerBeat)
        if (frame >= fromFrame && frame < toFrame) found.push({ frame, note, velocity })
      }
    }
    return found
  }

  /** Where in the pattern a frame is, in beats; null while nothing runs. */
  placeAt(frame: number): number | null {
    return this.pattern ? this.beatAt(frame) % this.pattern.beats : null
  }

  private beatAt(frame: number): number {
    return Math.max(0, frame - this.beganAt) / this.framesPerBeat
  }

  private get framesPerBeat(): number {
    return this.sampleRate * 60 / this.bpm
  }
}
