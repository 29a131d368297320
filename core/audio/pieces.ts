/** A part of a channel that is gone through in one go, and the steps of time that it lies in. */
export interface Piece {
  readonly from: number
  readonly count: number
  readonly firstStep: number
  readonly steps: number
}

/**
 * Parts of a channel of so many samples: whole steps, as many as there is room for; of a step that there is no room for, parts.
 *
 * @param mostSamples, mostSteps that there is room for
 */
export function* piecesOf(length: number, framesPerStep: number, mostSamples: number, mostSteps: number): Generator<Piece> {
  const whole = Math.min(mostSteps, Math.floor(mostSamples / framesPerStep)) * framesPerStep
  for (let from = 0, count = 0; from < length; from += count) {
    count = Math.min(whole || Math.min(mostSamples, framesPerStep - from % framesPerStep), length - from)
    yield { from, count, firstStep: Math.floor(from / framesPerStep), steps: Math.ceil(count / framesPerStep) }
  }
}
