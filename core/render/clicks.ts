import type { Click } from './transport'
import type { StereoBlock } from './workspace'

const LENGTH_SECONDS = 0.03
const LEVEL = 0.25
const FIRST_HZ = 1_760
const OTHER_HZ = 1_175

/** Sounds the beats of a metronome: short decaying sines, higher for the first of a bar. */
export class Clicks {
  private readonly first: Float32Array
  private readonly other: Float32Array
  private sounding: { readonly frame: number, readonly wave: Float32Array }[] = []

  constructor(sampleRate: number) {
    this.first = blip(FIRST_HZ, sampleRate)
    this.other = blip(OTHER_HZ, sampleRate)
  }

  /** Adds those that are due to a block that begins at a frame, and what still sounds of those before. */
  mixInto([left, right]: StereoBlock, frame: number, due: readonly Click[]): void {
    for (const click of due) this.sounding.push({ frame: click.frame, wave: click.isFirst ? this.first : this.other })
    for (const { frame: began, wave } of this.sounding) {
      for (let i = Math.max(0, began - frame); i < left.length && frame + i - began < wave.length; i++) {
        left[i]! += wave[frame + i - began]!
        right[i]! += wave[frame + i - began]!
      }
    }
    this.sounding = this.sounding.filter(({ frame: began, wave }) => began + wave.length > frame + left.length)
  }
}

function blip(hz: number, sampleRate: number): Float32Array {
  const frames = Math.round(LENGTH_SECONDS * sampleRate)
  return Float32Array.from({ length: frames }, (_, i) => LEVEL * Math.sin(2 * Math.PI * hz * i / sampleRate) * (1 - i / frames) ** 3)
}
