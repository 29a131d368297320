import { barTicks, beatTicks, type Metre } from './document'

/** A place in words: bar, beat, and what is over in ticks, the first two from 1: `2.3.240`. */
export function placeText(tick: number, metre: Metre): string {
  const bar = Math.floor(tick / barTicks(metre))
  const within = tick - bar * barTicks(metre)
  const beat = Math.floor(within / beatTicks(metre))
  const over = Math.round(within - beat * beatTicks(metre))
  return `${bar + 1}.${beat + 1}.${String(over).padStart(3, '0')}`
}
