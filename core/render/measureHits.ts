import { loudnessOf } from '../audio/analysis/loudness'
import { toDb } from '../audio/level'
import type { Kit } from '../kit/document'
import { renderOutputs } from './offline'
import type { PreparedSound } from './voice'

/** What hits at once come to, at full velocity. */
export interface HitsMeasured {
  /** Highest sample of all outputs together, over full scale. */
  readonly peakDb: number
  readonly hitLufs: number
  /** Highest sample of each output of the kit by itself. */
  readonly outputPeaksDb: readonly number[]
}

const FULL_VELOCITY = 127
/** What comes later is no louder than the hit. */
const LONGEST_SECONDS = 4

/** Renders hits at once on some notes, at full velocity, and measures them. Silence reads -Infinity. */
export function measureHits(kit: Kit, sounds: ReadonlyMap<string, PreparedSound>, notes: readonly number[], sampleRate: number): HitsMeasured {
  const outputs = renderOutputs(kit, sounds, notes.map(note => ({ atSeconds: 0, note, velocity: FULL_VELOCITY })), { sampleRate, longestSeconds: LONGEST_SECONDS })
  const frames = outputs[0]?.left.length ?? 0
  const [left, right] = [new Float32Array(frames), new Float32Array(frames)]
  for (const output of outputs) {
    for (let i = 0; i < frames; i++) {
      left[i]! += output.left[i]!
      right[i]! += output.right[i]!
    }
  }
  return {
    peakDb: toDb(peak(left, right)),
    hitLufs: frames === 0 ? -Infinity : loudnessOf([left, right], sampleRate).hitLufs,
    outputPeaksDb: outputs.map(output => toDb(peak(output.left, output.right))),
  }
}

function peak(left: Float32Array, right: Float32Array): number {
  let highest = 0
  for (const side of [left, right]) for (const value of side) highest = Math.max(highest, Math.abs(value))
  return highest
}
