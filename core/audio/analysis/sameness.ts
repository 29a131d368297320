import { mulberry32 } from '../dither'
import { FEATURES } from './features'

/** Mean difference of two vectors, 0 to 255, within which one recording may lie in both. */
export const NEAR_DISTANCE = 9

const TABLES = 12
const BITS = 14
const SEED = 41

/** Mean absolute difference of two vectors. */
export function featureDistance(a: Uint8Array, b: Uint8Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!)
  return sum / a.length
}

let planes: Float32Array | undefined

/**
 * Short signatures of a vector, one a table: near vectors share most bits, so that those which share a whole signature in
 * some table are worth comparing. Source: Charikar, "Similarity estimation techniques from rounding algorithms" (2002).
 *
 * @param centre the mean of all vectors
 */
export function signatures(features: Uint8Array, centre: Float64Array): number[] {
  planes ??= randomPlanes()
  const found: number[] = []
  for (let table = 0; table < TABLES; table++) {
    let signature = 0
    for (let bit = 0; bit < BITS; bit++) {
      const row = (table * BITS + bit) * FEATURES
      let sum = 0
      for (let i = 0; i < FEATURES; i++) sum += (features[i]! - centre[i]!) * planes[row + i]!
      signature = signature << 1 | (sum > 0 ? 1 : 0)
    }
    found.push(signature)
  }
  return found
}

function randomPlanes(): Float32Array {
  const random = mulberry32(SEED)
  return Float32Array.from({ length: TABLES * BITS * FEATURES }, () => random() + random() + random() - 1.5)
}
