import type { Meter } from './usage'
import type { Hold } from './variants'

/** What is held of a pad. */
export type Held = keyof Hold

/** Something held that would have to be let go. */
export interface Release {
  readonly padIndex: number
  readonly held: Held
}

/** A limit that cannot be met whatever is done. */
export interface Shortfall {
  readonly meter: Meter
  /** What is needed at least. */
  readonly needed: number
  readonly room: number
  /** The pads that need it, each with the least that it can do with, those that need most first. */
  readonly pads: readonly { readonly padIndex: number, readonly needed: number }[]
  /** What is held and would be enough to let go, as little as possible; empty: that would not do, or nothing is held. */
  readonly releases: readonly Release[]
}

/** The least that a pad can do with as it is held, and with each thing let go that is. */
export interface PadNeed {
  readonly padIndex: number
  readonly needed: number
  readonly without: readonly { readonly held: Held, readonly needed: number }[]
}

/** A limit of a sum over pads, with what is asked for least. */
export function shortfallOf(meter: Meter, room: number, needs: readonly PadNeed[]): Shortfall {
  return {
    meter, room,
    needed: needs.reduce((sum, { needed }) => sum + needed, 0),
    pads: needs.filter(({ needed }) => needed > 0).toSorted((a, b) => b.needed - a.needed).map(({ padIndex, needed }) => ({ padIndex, needed })),
    releases: enoughToRelease(needs, needs.reduce((sum, { needed }) => sum + needed, 0) - room),
  }
}

/** A limit of single pads: each one that passes it must be let go. */
export function shortfallOfEach(meter: Meter, room: number, needs: readonly PadNeed[]): Shortfall {
  const over = needs.filter(({ needed }) => needed > room).toSorted((a, b) => b.needed - a.needed)
  const releases = over.map(({ padIndex, without }) => ({ padIndex, held: without.find(({ needed }) => needed <= room)?.held }))
  return {
    meter, room,
    needed: Math.max(...over.map(({ needed }) => needed)),
    pads: over.map(({ padIndex, needed }) => ({ padIndex, needed })),
    releases: releases.every((release): release is Release => release.held !== undefined) ? releases : [],
  }
}

/** Where one release is enough, the one that changes least; else the largest ones, pad after pad, until it is. */
function enoughToRelease(needs: readonly PadNeed[], tooMuch: number): Release[] {
  const savings = needs.flatMap(({ padIndex, needed, without }) => without.map(({ held, needed: left }) => ({ padIndex, held, saved: needed - left }))).filter(({ saved }) => saved > 0)
  const alone = savings.filter(({ saved }) => saved >= tooMuch).toSorted((a, b) => a.saved - b.saved)[0]
  if (alone) return [{ padIndex: alone.padIndex, held: alone.held }]
  const released: Release[] = []
  let left = tooMuch
  for (const { padIndex, held, saved } of savings.toSorted((a, b) => b.saved - a.saved)) {
    if (released.some(release => release.padIndex === padIndex)) continue
    released.push({ padIndex, held })
    left -= saved
    if (left <= 0) return released
  }
  return []
}
