import { barTicks, clampTempo, lengthTicks, MOST_BARS, MOST_HITS, MOST_PARTS, countHits, type Hit, type Metre, type Part, type Pattern, type Swing } from './document'

/** A pattern after an edit, with the hits that are chosen in it. Hits are known by being the same object. */
export interface Edited {
  readonly pattern: Pattern
  readonly chosen: ReadonlySet<Hit>
}

/** Where a hit lies. */
export interface Placed {
  readonly part: Part
  readonly hit: Hit
}

/** The part of that id. */
export function partOf(pattern: Pattern, partId: string): Part | undefined {
  return pattern.parts.find(part => part.id === partId)
}

/** Chosen hits with their parts, in the order of their ticks. */
export function placesOf(pattern: Pattern, chosen: ReadonlySet<Hit>): Placed[] {
  return pattern.parts.flatMap(part => part.hits.filter(hit => chosen.has(hit)).map(hit => ({ part, hit }))).sort((a, b) => a.hit.tick - b.hit.tick)
}

/** Those of the chosen hits that are there: after undo, some may not be. */
export function stillChosen(pattern: Pattern, chosen: ReadonlySet<Hit>): ReadonlySet<Hit> {
  if (chosen.size === 0) return chosen
  return new Set(pattern.parts.flatMap(part => part.hits.filter(hit => chosen.has(hit))))
}

/** Every hit of some parts, of all without any, between two ticks. */
export function hitsWithin(pattern: Pattern, from: number, to: number, partIds?: ReadonlySet<string>): ReadonlySet<Hit> {
  return new Set(pattern.parts.filter(part => !partIds || partIds.has(part.id)).flatMap(part => part.hits.filter(hit => hit.tick >= from && hit.tick < to)))
}

/** Sets what a pattern has beside its parts. */
export function setPattern(pattern: Pattern, change: { readonly name?: string, readonly tempoBpm?: number, readonly metre?: Metre, readonly bars?: number, readonly swing?: Swing }): Pattern {
  const next = { ...pattern, ...change }
  return {
    ...next,
    name: next.name.trim().slice(0, 120) || pattern.name,
    tempoBpm: clampTempo(next.tempoBpm),
    bars: Math.max(1, Math.min(MOST_BARS, Math.round(next.bars))),
    swing: { ...next.swing, percent: Math.max(50, Math.min(75, next.swing.percent)) },
  }
}

/** Adds a part with no hits. A pattern that has as many as it may is left as it is. */
export function addPart(pattern: Pattern, part: Omit<Part, 'id' | 'hits'>, id = freePartId(pattern)): Pattern {
  if (pattern.parts.length >= MOST_PARTS) return pattern
  return { ...pattern, parts: [...pattern.parts, { ...part, id, hits: [] }] }
}

/** An id that no part of the pattern has. */
export function freePartId(pattern: Pattern): string {
  const taken = new Set(pattern.parts.map(part => part.id))
  for (let n = pattern.parts.length + 1; ; n++) {
    const id = `part-${n}`
    if (!taken.has(id)) return id
  }
}

export function removePart(pattern: Pattern, partId: string): Pattern {
  const parts = pattern.parts.filter(part => part.id !== partId)
  return parts.length === pattern.parts.length ? pattern : { ...pattern, parts }
}

/** Adds hits to a part. Beyond what a pattern may hold none is added. */
export function addHits(pattern: Pattern, partId: string, hits: readonly Hit[]): Edited {
  const part = partOf(pattern, partId)
  const taken = hits.slice(0, Math.max(0, MOST_HITS - countHits(pattern)))
  if (!part || taken.length === 0) return { pattern, chosen: new Set() }
  return { pattern: changePart(pattern, partId, now => ({ ...now, hits: ordered([...now.hits, ...taken]) })), chosen: new Set(taken) }
}

export function eraseHits(pattern: Pattern, chosen: ReadonlySet<Hit>): Edited {
  return changeHits(pattern, chosen, () => undefined)
}

/** Changes each chosen hit; undefined erases it. Hits that come out equal stay the same objects. */
export function changeHits(pattern: Pattern, chosen: ReadonlySet<Hit>, change: (hit: Hit, part: Part) => Hit | undefined): Edited {
  const after = new Set<Hit>()
  let isChanged = false
  const parts = pattern.parts.map((part) => {
    if (!part.hits.some(hit => chosen.has(hit))) return part
    let isOther = false
    const hits = part.hits.flatMap((hit) => {
      if (!chosen.has(hit)) return [hit]
      const made = change(hit, part)
      const next = made && sameHit(made, hit) ? hit : made
      if (next !== hit) isOther = true
      if (next) after.add(next)
      return next ? [next] : []
    })
    if (!isOther) return part
    isChanged = true
    return { ...part, hits: ordered(hits) }
  })
  return { pattern: isChanged ? { ...pattern, parts } : pattern, chosen: after }
}

/** Moves chosen hits in time, all by as much: no further than the first can go. They are no longer where quantizing put them. */
export function moveHits(pattern: Pattern, chosen: ReadonlySet<Hit>, ticks: number): Edited {
  const first = placesOf(pattern, chosen)[0]?.hit.tick ?? 0
  const by = Math.max(-first, Math.round(ticks))
  return changeHits(pattern, chosen, ({ playedTick: _played, ...hit }) => ({ ...hit, tick: hit.tick + by }))
}

/** Moves chosen hits to other parts, told by the part that each is in; where there is none, it stays. */
export function moveToParts(pattern: Pattern, chosen: ReadonlySet<Hit>, partFor: (partId: string) => string | undefined): Edited {
  const moves = placesOf(pattern, chosen).flatMap(({ part, hit }) => {
    const to = partFor(part.id)
    return to !== undefined && to !== part.id && partOf(pattern, to) ? [{ hit, to }] : []
  })
  if (moves.length === 0) return { pattern, chosen }
  const moving = new Set(moves.map(move => move.hit))
  const parts = pattern.parts.map((part) => {
    const coming = moves.filter(move => move.to === part.id).map(move => move.hit)
    const staying = part.hits.filter(hit => !moving.has(hit))
    return coming.length === 0 && staying.length === part.hits.length ? part : { ...part, hits: ordered([...staying, ...coming]) }
  })
  return { pattern: { ...pattern, parts }, chosen }
}

/** Sets the velocity of chosen hits. */
export function setVelocity(pattern: Pattern, chosen: ReadonlySet<Hit>, velocityOf: (hit: Hit) => number): Edited {
  return changeHits(pattern, chosen, hit => ({ ...hit, velocity: clampVelocity(velocityOf(hit)) }))
}

/**
 * Brings velocities nearer to their mean, or further from it.
 *
 * @param spread 0 makes all alike, 1 leaves them, 2 doubles how far each is off
 */
export function spreadVelocities(pattern: Pattern, chosen: ReadonlySet<Hit>, spread: number): Edited {
  const all = placesOf(pattern, chosen)
  const mean = all.reduce((sum, { hit }) => sum + hit.velocity, 0) / Math.max(1, all.length)
  return setVelocity(pattern, chosen, hit => mean + (hit.velocity - mean) * spread)
}

/** Hits as they are copied: their parts, and ticks from the first of them on. */
export interface CopiedHits {
  readonly hits: readonly { readonly part: Omit<Part, 'hits'>, readonly hit: Hit }[]
}

export function copyHits(pattern: Pattern, chosen: ReadonlySet<Hit>): CopiedHits {
  const places = placesOf(pattern, chosen)
  const first = places[0]?.hit.tick ?? 0
  return { hits: places.map(({ part: { hits: _hits, ...part }, hit: { playedTick: _played, ...hit } }) => ({ part, hit: { ...hit, tick: hit.tick - first } })) }
}

/** Puts copied hits down from a tick on, each in the part it came from; parts that are missing are added. */
export function pasteHits(pattern: Pattern, { hits }: CopiedHits, at: number): Edited {
  let next = pattern
  const chosen = new Set<Hit>()
  for (const { part, hit } of hits) {
    if (!partOf(next, part.id)) next = addPart(next, part, part.id)
    const added = addHits(next, part.id, [{ ...hit, tick: hit.tick + at }])
    next = added.pattern
    for (const one of added.chosen) chosen.add(one)
  }
  return { pattern: next, chosen }
}

/** Copies whole bars over others, of some parts or of all: what was there goes. The pattern grows where it must. */
export function copyBars(pattern: Pattern, from: number, count: number, to: number, partIds?: ReadonlySet<string>): Edited {
  const bar = barTicks(pattern.metre)
  const [start, end, target] = [from * bar, (from + count) * bar, to * bar]
  const source = hitsWithin(pattern, start, end, partIds)
  const copied = copyHits(pattern, source)
  const first = placesOf(pattern, source)[0]?.hit.tick ?? start
  const cleared = eraseHits(pattern, hitsWithin(pattern, target, target + count * bar, partIds)).pattern
  return pasteHits(setPattern(cleared, { bars: Math.max(pattern.bars, Math.min(MOST_BARS, to + count)) }), copied, target + first - start)
}

/** Hits that lie where the pattern does not play. They are kept, in case it is made longer again. */
export function hitsBeyond(pattern: Pattern): number {
  const end = lengthTicks(pattern)
  return pattern.parts.reduce((sum, part) => sum + part.hits.filter(hit => hit.tick >= end).length, 0)
}

export function clampVelocity(velocity: number): number {
  return Math.max(1, Math.min(127, Math.round(velocity)))
}

/** Hits in the order of their ticks. */
export function ordered(hits: readonly Hit[]): readonly Hit[] {
  return hits.every((hit, i) => i === 0 || hits[i - 1]!.tick <= hit.tick) ? hits : [...hits].sort((a, b) => a.tick - b.tick)
}

export function changePart(pattern: Pattern, partId: string, change: (part: Part) => Part): Pattern {
  return { ...pattern, parts: pattern.parts.map(part => part.id === partId ? change(part) : part) }
}

function sameHit(a: Hit, b: Hit): boolean {
  return a.tick === b.tick && a.velocity === b.velocity && a.length === b.length && a.alternate === b.alternate && a.playedTick === b.playedTick
}
