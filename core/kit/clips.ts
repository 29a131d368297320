import { MOST_GROUPS, MOST_PADS, type Articulation, type Kit, type Output, type Pad } from './document'
import { addBank, mapPads } from './edits'
import { withNote } from './noteEdits'

/** Pads that were copied, with what they need of the kit they come from. */
export interface PadClip {
  readonly pads: readonly Pad[]
  readonly outputs: readonly Output[]
  readonly articulations: readonly Articulation[]
}

/** Pads that were put into a kit, and what of them became another. */
export interface Pasted {
  readonly kit: Kit
  readonly padIndexes: readonly number[]
  /** Pads of which the sounds were replaced. */
  readonly replaced: readonly number[]
  /** Pads for which there was no place. */
  readonly leftOver: number
  /** Choke groups that had to become others, so that they cut nothing that was there before. */
  readonly renumbered: readonly { readonly from: number, readonly to: number | null }[]
  /** Outputs that this kit does not have: their pads go to its first. */
  readonly outputsLost: readonly string[]
}

/** Copies pads with all they hold, in the order of the kit. */
export function copyPads(kit: Kit, padIndexes: readonly number[]): PadClip {
  return { pads: padIndexes.flatMap(index => kit.pads[index] ?? []), outputs: kit.outputs, articulations: kit.articulations }
}

/**
 * Puts copied pads onto pads from one on, in place of what is there; their notes stay those of the kit. Banks are added as
 * needed. From another kit, choke groups become ones that nobody here uses, and an output that is not here by its name
 * becomes the first.
 *
 * @param isSameKit choke groups and outputs mean the same here as where they were copied
 */
export function pastePads(kit: Kit, padIndex: number, clip: PadClip, isSameKit: boolean): Pasted {
  const pads = clip.pads.slice(0, MOST_PADS - padIndex)
  let grown = kit
  while (grown.pads.length < padIndex + pads.length) grown = addBank(grown)
  const groups = isSameKit ? new Map<number, number | null>() : freshGroups(grown, padIndex, pads)
  const outputs = outputMap(grown, clip.outputs)
  const articulations = articulationMap(grown, clip.articulations)
  const padIndexes = pads.map((_, i) => padIndex + i)
  const replaced = padIndexes.filter(index => grown.pads[index]!.layers.length > 0)
  const outputsLost = [...new Set(pads.filter(pad => !outputs.has(pad.output)).map(pad => clip.outputs.find(output => output.id === pad.output)?.name ?? pad.output))]
  const pasted = mapPads(grown, padIndexes, (pad, index) => {
    const copied = pads[index - padIndex]!
    const { chokeGroup, chokedBy, articulation } = copied
    const groupHere = (group: number) => groups.has(group) ? groups.get(group)! : group
    return {
      ...withNote(copied, pad.note),
      soloed: pad.soloed,
      chokeGroup: chokeGroup === null ? null : groupHere(chokeGroup),
      chokedBy: chokedBy && chokedBy.flatMap(group => groupHere(group) ?? []),
      articulation: articulation === null ? null : articulations.get(articulation) ?? null,
      output: outputs.get(copied.output) ?? grown.outputs[0]!.id,
    }
  })
  return { kit: pasted, padIndexes, replaced, leftOver: clip.pads.length - pads.length, renumbered: [...groups].filter(([from, to]) => from !== to).map(([from, to]) => ({ from, to })), outputsLost }
}

/** Gives pads the settings of a copied one, but neither its sounds, its name, its role nor its note. */
export function pasteSettings(kit: Kit, padIndexes: readonly number[], clip: PadClip): Kit {
  const [copied] = clip.pads
  if (!copied) return kit
  const outputs = outputMap(kit, clip.outputs)
  const articulations = articulationMap(kit, clip.articulations)
  return mapPads(kit, padIndexes, pad => ({
    ...withNote({ ...copied, layers: [] }, pad.note), name: pad.name, role: pad.role, layers: pad.layers, alternate: pad.alternate, notes: pad.notes,
    muted: pad.muted, soloed: pad.soloed, held: pad.held, articulation: articulations.get(copied.articulation ?? '') ?? null, output: outputs.get(copied.output) ?? pad.output,
  }))
}

/** Puts a copy of each pad onto the empty pads that follow the last of them. */
export function duplicatePads(kit: Kit, padIndexes: readonly number[]): Pasted {
  const clip = copyPads(kit, padIndexes)
  let grown = kit
  const targets: number[] = []
  for (let at = Math.max(-1, ...padIndexes) + 1; targets.length < clip.pads.length && at < MOST_PADS; at++) {
    if (at >= grown.pads.length) grown = addBank(grown)
    if (grown.pads[at]!.layers.length === 0) targets.push(at)
  }
  const copies = clip.pads.slice(0, targets.length)
  return {
    kit: mapPads(grown, targets, (pad, index) => ({ ...withNote(copies[targets.indexOf(index)]!, pad.note), soloed: false })),
    padIndexes: targets, replaced: [], leftOver: clip.pads.length - targets.length, renumbered: [], outputsLost: [],
  }
}

/** The choke groups that a pad names: its own and those that cut it. */
function groupsOf({ chokeGroup, chokedBy }: Pad): number[] {
  return [...chokeGroup === null ? [] : [chokeGroup], ...chokedBy ?? []]
}

/** For each choke group of the pads one that no other pad here uses; null where all 32 are taken. */
function freshGroups(kit: Kit, padIndex: number, pads: readonly Pad[]): Map<number, number | null> {
  const taken = new Set(kit.pads.flatMap((pad, index) => index < padIndex || index >= padIndex + pads.length ? groupsOf(pad) : []))
  const wanted = [...new Set(pads.flatMap(groupsOf))]
  const groups = new Map<number, number | null>()
  const all = Array.from({ length: MOST_GROUPS }, (_, i) => i + 1)
  for (const group of wanted) {
    const given = new Set([...groups.values()])
    // Groups that come along unchanged are not given to others.
    const free = taken.has(group) || given.has(group) ? all.find(one => !taken.has(one) && !given.has(one) && !wanted.includes(one)) ?? null : group
    groups.set(group, free)
  }
  return groups
}

/** Articulations of a kit by the names of those of another, by their ids. */
function articulationMap(kit: Kit, articulations: readonly Articulation[]): Map<string, string> {
  const byName = new Map(kit.articulations.map(({ name, id }) => [name.toLowerCase(), id]))
  return new Map(articulations.flatMap(({ id, name }) => byName.has(name.toLowerCase()) ? [[id, byName.get(name.toLowerCase())!] as const] : []))
}

/** Outputs of a kit by the names of those of another. */
function outputMap(kit: Kit, outputs: readonly Output[]): Map<string, string> {
  const byName = new Map(kit.outputs.map(output => [output.name.toLowerCase(), output.id]))
  const found = new Map<string, string>()
  for (const output of outputs) {
    const id = byName.get(output.name.toLowerCase())
    if (id !== undefined) found.set(output.id, id)
  }
  return found
}
