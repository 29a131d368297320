import { highestBetween, REACH } from './truePeak'

const CHUNK_FRAMES = 4_096
/** Samples before and behind a place that it depends on. */
const [BEFORE, BEHIND] = [REACH - 1, REACH]

/** The true peak of audio that comes block by block, as `truePeak` finds it. */
export class TruePeakMeter {
  private readonly lines: readonly Float32Array[]
  // Silence lies before the first sample.
  private filled = BEFORE
  private highest: number

  /** @param floor the lowest peak that is reported: anything below it is skipped */
  constructor(channels: number, floor: number) {
    this.highest = floor
    this.lines = Array.from({ length: channels }, () => new Float32Array(BEFORE + CHUNK_FRAMES + BEHIND))
  }

  /** Takes the next frames. */
  add(block: readonly Float32Array[]): void {
    const frames = block[0]?.length ?? 0
    const size = BEFORE + CHUNK_FRAMES + BEHIND
    for (let done = 0; done < frames;) {
      const count = Math.min(size - this.filled, frames - done)
      for (const [c, line] of this.lines.entries()) line.set(block[c]!.subarray(done, done + count), this.filled)
      this.filled += count
      done += count
      if (this.filled < size) continue
      this.look(size - BEHIND)
      for (const line of this.lines) line.copyWithin(0, size - BEHIND - BEFORE)
      this.filled = BEFORE + BEHIND
    }
  }

  /** The highest absolute value, when all has come. */
  finish(): number {
    for (const line of this.lines) line.fill(0, this.filled)
    this.look(Math.max(BEFORE, this.filled - 1))
    return this.highest
  }

  /** Looks at the samples up to one, and between them. */
  private look(to: number): void {
    for (const line of this.lines) {
      let around = 0
      for (const value of line) around = Math.max(around, Math.abs(value))
      for (let i = BEFORE; i <= to; i++) this.highest = Math.max(this.highest, Math.abs(line[i]!))
      if (to <= BEFORE || around === 0) continue
      const found = highestBetween(line, BEFORE, to, around, this.highest)
      // What is known comes back rounded to 32 bits.
      if (found > Math.fround(this.highest)) this.highest = found
    }
  }
}
