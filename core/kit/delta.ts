import type { Kit, Pad } from './document'

/** What of a kit is another than in an earlier state: all but its pads, and those pads that changed. */
export interface KitDelta {
  readonly kit: Omit<Kit, 'pads'>
  readonly padCount: number
  readonly pads: readonly (readonly [index: number, pad: Pad])[]
}

/** What leads from one state to another. Pads that are the same object are taken to be the same. */
export function deltaOf(before: Kit, after: Kit): KitDelta {
  const { pads, ...kit } = after
  return { kit, padCount: pads.length, pads: pads.flatMap((pad, index) => pad === before.pads[index] ? [] : [[index, pad] as const]) }
}

/** The state that a delta leads to. Pads that did not change stay the same objects. */
export function applyDelta(before: Kit, { kit, padCount, pads }: KitDelta): Kit {
  const next = before.pads.slice(0, padCount)
  for (const [index, pad] of pads) next[index] = pad
  return { ...kit, pads: next }
}
