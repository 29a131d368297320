import { TICKS_PER_QUARTER, type Swing } from './document'

/** Length of a step that is paired, in ticks. */
export function swingStepTicks({ step }: Swing): number {
  return TICKS_PER_QUARTER * 4 / step
}

/**
 * Where a tick falls under a swing. Steps go in pairs; the second of a pair falls at `percent` of the pair, and what lies
 * between is stretched and pressed evenly. 50 leaves all as it is; 66.7 gives the first two thirds of a triplet (common practice).
 *
 * @returns ticks, with a fraction
 */
export function swung(tick: number, swing: Swing): number {
  if (swing.percent === 50) return tick
  const step = swingStepTicks(swing)
  const pair = Math.floor(tick / (2 * step)) * 2 * step
  const within = tick - pair
  const middle = 2 * step * swing.percent / 100
  return pair + (within <= step ? within * middle / step : middle + (within - step) * (2 * step - middle) / step)
}

/** The tick that falls at a place under a swing: what `swung` does, backwards. */
export function unswung(place: number, swing: Swing): number {
  if (swing.percent === 50) return place
  const step = swingStepTicks(swing)
  const pair = Math.floor(place / (2 * step)) * 2 * step
  const within = place - pair
  const middle = 2 * step * swing.percent / 100
  return pair + (within <= middle ? within * step / middle : step + (within - middle) * step / (2 * step - middle))
}
