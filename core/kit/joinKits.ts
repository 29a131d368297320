import { firstInForce } from './articulations'
import { MOST_GROUPS, type Articulation, type Kit, type NoteRange, type Output, type Pad } from './document'

/** Kits that can be played and bounced together. */
export const MOST_KITS = 16

/** Notes and choke groups of the second kit begin after those of the first, and so on. */
export const NOTES = 128

/**
 * Several kits as one that can be played and rendered, each with notes, choke groups and outputs of its own. It is no document:
 * its notes go on above 127, and it may have more pads than a kit. A kit alone is given back as it is.
 */
export function joinKits(kits: readonly Kit[]): Kit {
  const [first, ...others] = kits
  if (!first || others.length === 0) return first!
  const outputs: Output[] = []
  const pads: Pad[] = []
  const articulations: Articulation[] = []
  const groupPolyphony: Kit['groupPolyphony'] = []
  for (const [i, kit] of kits.entries()) {
    for (const output of kit.outputs) outputs.push({ id: `${i}/${output.id}`, name: `${kit.name}: ${output.name}` })
    const first = new Set(firstInForce(kit).values())
    for (const one of kit.articulations.toSorted((a, b) => Number(first.has(b.id)) - Number(first.has(a.id)))) {
      articulations.push({ ...one, id: `${i}/${one.id}`, key: one.key === null ? null : one.key + i * NOTES })
    }
    const groupHere = (group: number) => group + i * MOST_GROUPS
    const rangeHere = (range: NoteRange | null) => range && { ...range, low: range.low + i * NOTES, high: range.high + i * NOTES, root: range.root + i * NOTES }
    for (const { group, voices } of kit.groupPolyphony) groupPolyphony.push({ group: groupHere(group), voices })
    for (const pad of kit.pads) {
      pads.push({
        ...pad,
        note: pad.note + i * NOTES,
        range: rangeHere(pad.range),
        gainDb: pad.gainDb + kit.gainDb,
        chokeGroup: pad.chokeGroup === null ? null : groupHere(pad.chokeGroup),
        chokedBy: pad.chokedBy && pad.chokedBy.map(groupHere),
        articulation: pad.articulation === null ? null : `${i}/${pad.articulation}`,
        layers: pad.layers.some(layer => layer.notes) ? pad.layers.map(layer => ({ ...layer, notes: rangeHere(layer.notes) })) : pad.layers,
        output: `${i}/${pad.output}`,
      })
    }
  }
  return { ...first, gainDb: 0, polyphony: kits.reduce((sum, kit) => sum + kit.polyphony, 0), outputs, articulations, articulation: null, articulationController: null, groupPolyphony, pads }
}
