/** A product of powers is taken into its logarithm before it can pass what a number holds. */
const LOWEST_PRODUCT = 1e-200
const HIGHEST_PRODUCT = 1e200

/**
 * Flatness of a stretch of a power spectrum: its geometric over its arithmetic mean, 0 (a tone) to 1 (white noise); 0 where
 * there is nothing in it. Source: Peeters, "A large set of audio features for sound description" (2004).
 *
 * @param floor added to each power, so that an empty line does not make it 0
 */
export function flatnessOf(power: Float32Array, from: number, to: number, floor: number): number {
  const end = Math.min(power.length, to)
  let sum = 0
  let logs = 0
  // One logarithm for the product of many powers.
  let product = 1
  for (let line = from; line < end; line++) {
    const value = power[line]!
    sum += value
    product *= value + floor
    if (product > LOWEST_PRODUCT && product < HIGHEST_PRODUCT) continue
    logs += Math.log(product)
    product = 1
  }
  const count = Math.max(1, end - from)
  return sum > 0 ? Math.min(1, Math.exp((logs + Math.log(product)) / count) / (sum / count)) : 0
}
