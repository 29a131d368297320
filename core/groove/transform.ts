import { barTicks, lengthTicks, MOST_BARS, type Hit, type Pattern } from './document'
import { changeHits, copyBars, placesOf, setPattern, type Edited } from './edits'

/** Moves chosen hits round within the pattern: what leaves at one end comes in at the other. */
export function rotateHits(pattern: Pattern, chosen: ReadonlySet<Hit>, ticks: number): Edited {
  const length = lengthTicks(pattern)
  return changeHits(pattern, chosen, (hit) => {
    if (hit.tick >= length) return hit
    const { playedTick: _played, ...rest } = hit
    return { ...rest, tick: ((hit.tick + Math.round(ticks)) % length + length) % length }
  })
}

/** Makes the distances of chosen hits from the bar that the first of them lies in longer or shorter: 2 is twice as long, half as fast. */
export function stretchHits(pattern: Pattern, chosen: ReadonlySet<Hit>, factor: number): Edited {
  const bar = barTicks(pattern.metre)
  const start = Math.floor((placesOf(pattern, chosen)[0]?.hit.tick ?? 0) / bar) * bar
  return changeHits(pattern, chosen, ({ playedTick: _played, ...hit }) => ({
    ...hit, tick: Math.round(start + (hit.tick - start) * factor), length: Math.max(1, Math.round(hit.length * factor)),
  }))
}

/** Turns the order of chosen hits in time: the first comes to lie where the last was. */
export function reverseHits(pattern: Pattern, chosen: ReadonlySet<Hit>): Edited {
  const places = placesOf(pattern, chosen)
  const [first, last] = [places[0]?.hit.tick ?? 0, places.at(-1)?.hit.tick ?? 0]
  return changeHits(pattern, chosen, ({ playedTick: _played, ...hit }) => ({ ...hit, tick: first + last - hit.tick }))
}

/** Makes a pattern twice as long, the second half like the first. One that would grow too long is left as it is. */
export function repeatPattern(pattern: Pattern): Pattern {
  if (pattern.bars * 2 > MOST_BARS) return pattern
  return copyBars(pattern, 0, pattern.bars, pattern.bars).pattern
}

/** Keeps the first half of a pattern; hits beyond it are kept where they are, unheard. */
export function halvePattern(pattern: Pattern): Pattern {
  return setPattern(pattern, { bars: Math.ceil(pattern.bars / 2) })
}
