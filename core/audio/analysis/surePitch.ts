/** Of less confidence it is no pitch that a sound is known by: noise has up to a sixth, struck tones mostly more than half. */
const LEAST_CONFIDENCE = 0.25

/** True where a pitch is sure enough to be listed, searched and placed by. @param confidence 0 to 1, see `Pitch` */
export function isSurePitch({ confidence }: { readonly confidence: number }): boolean {
  return confidence >= LEAST_CONFIDENCE
}
