import { barTicks, TICKS_PER_QUARTER, type Hit, type Metre, type Pattern } from './document'
import { changeHits, type Edited } from './edits'

export const GRID_VALUES = [4, 8, 16, 32, 64] as const
export const GRID_FEELS = ['straight', 'triplet', 'dotted'] as const

/** The lines that hits are drawn to: a note value, as it is, three in the time of two, or half as long again. */
export interface Grid {
  readonly value: typeof GRID_VALUES[number]
  readonly feel: typeof GRID_FEELS[number]
}

export interface QuantizeOptions {
  readonly grid: Grid
  /** 0 leaves a hit where it was played, 100 puts it on its line. */
  readonly strengthPercent: number
  /** How far from a line a hit may lie to be moved, in percent of half a step: 100 moves all. */
  readonly windowPercent: number
  /** Where every second line falls, in percent of two steps: 50 is straight, 66.7 a triplet. */
  readonly swingPercent: number
}

export const FULLY: Omit<QuantizeOptions, 'grid'> = { strengthPercent: 100, windowPercent: 100, swingPercent: 50 }

/** Length of a step of a grid, in ticks. */
export function gridTicks({ value, feel }: Grid): number {
  const plain = TICKS_PER_QUARTER * 4 / value
  return feel === 'triplet' ? plain * 2 / 3 : feel === 'dotted' ? plain * 3 / 2 : plain
}

/** The line of a grid that is nearest to a tick. Lines begin anew with each bar. */
export function nearestLine(tick: number, grid: Grid, metre: Metre, swingPercent = 50): number {
  const step = gridTicks(grid)
  const bar = barTicks(metre)
  const start = Math.floor(tick / bar) * bar
  const within = tick - start
  const pair = Math.floor(within / (2 * step)) * 2 * step
  const lines = [pair, pair + 2 * step * swingPercent / 100, pair + 2 * step].map(line => Math.min(line, bar))
  return start + lines.reduce((best, line) => Math.abs(line - within) < Math.abs(best - within) ? line : best)
}

/** Where a hit that was played at a tick comes to lie. */
export function quantizedTick(tick: number, options: QuantizeOptions, metre: Metre): number {
  const line = nearestLine(tick, options.grid, metre, options.swingPercent)
  const reach = gridTicks(options.grid) / 2 * options.windowPercent / 100
  if (Math.abs(line - tick) > reach) return tick
  return Math.max(0, Math.round(tick + (line - tick) * options.strengthPercent / 100))
}

/**
 * Draws chosen hits to a grid, each from where it was played: done twice with other values, it is as if only the last was done.
 * Hits of one part that come to lie on one tick by it become one, the loudest of them.
 */
export function quantize(pattern: Pattern, chosen: ReadonlySet<Hit>, options: QuantizeOptions): Edited {
  const drawn = changeHits(pattern, chosen, (hit) => {
    const played = hit.playedTick ?? hit.tick
    const { playedTick: _played, ...rest } = hit
    const tick = quantizedTick(played, options, pattern.metre)
    return tick === played ? { ...rest, tick } : { ...rest, tick, playedTick: played }
  })
  return withoutDoubles(drawn)
}

/** Of hits of one part on one tick, where at least one of them is chosen, the loudest alone stays. */
function withoutDoubles(edited: Edited): Edited {
  const softer = new Set<Hit>()
  for (const { hits } of edited.pattern.parts) {
    const byTick = new Map<number, Hit>()
    const chosenTicks = new Set(hits.flatMap(hit => edited.chosen.has(hit) ? [hit.tick] : []))
    for (const hit of hits) {
      if (!chosenTicks.has(hit.tick)) continue
      const other = byTick.get(hit.tick)
      if (other) softer.add(hit.velocity > other.velocity ? other : hit)
      if (!other || hit.velocity > other.velocity) byTick.set(hit.tick, hit)
    }
  }
  if (softer.size === 0) return edited
  const parts = edited.pattern.parts.map(part => part.hits.some(hit => softer.has(hit)) ? { ...part, hits: part.hits.filter(hit => !softer.has(hit)) } : part)
  return { pattern: { ...edited.pattern, parts }, chosen: new Set([...edited.chosen].filter(hit => !softer.has(hit))) }
}

/** Puts chosen hits back to where they were played. */
export function asPlayed(pattern: Pattern, chosen: ReadonlySet<Hit>): Edited {
  return changeHits(pattern, chosen, ({ playedTick, ...hit }) => playedTick === undefined ? hit : { ...hit, tick: playedTick })
}
