import type { Kit, Output, Pad } from './document'

/** Kits that can be played and bounced together. */
export const MOST_KITS = 16

/** Notes and choke groups of the second kit begin after those of the first, and so on. */
export const NOTES = 128
const GROUPS = 32

/**
 * Several kits as one that can be played and rendered, each with notes, choke groups and outputs of its own. It is no document:
 * its notes go on above 127, and it may have more pads than a kit. A kit alone is given back as it is.
 */
export function joinKits(kits: readonly Kit[]): Kit {
  const [first, ...others] = kits
  if (!first || others.length === 0) return first!
  const outputs: Output[] = []
  const pads: Pad[] = []
  for (const [i, kit] of kits.entries()) {
    for (const output of kit.outputs) outputs.push({ id: `${i}/${output.id}`, name: `${kit.name}: ${output.name}` })
    for (const pad of kit.pads) {
      pads.push({
        ...pad,
        note: pad.note + i * NOTES,
        gainDb: pad.gainDb + kit.gainDb,
        chokeGroup: pad.chokeGroup === null ? null : pad.chokeGroup + i * GROUPS,
        output: `${i}/${pad.output}`,
      })
    }
  }
  return { ...first, gainDb: 0, polyphony: kits.reduce((sum, kit) => sum + kit.polyphony, 0), outputs, pads }
}
