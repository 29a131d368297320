import { MOST_PADS, type Kit, type Output, type Pad } from './document'
import { addBank, mapPads } from './edits'

/** Pads that were copied, with what they need of the kit they come from. */
export interface PadClip {
  readonly pads: readonly Pad[]
  readonly outputs: readonly Output[]
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

const MOST_CHOKE_GROUPS = 32

/** Copies pads with all they hold, in the order of the kit. */
export function copyPads(kit: Kit, padIndexes: readonly number[]): PadClip {
  return { pads: padIndexes.flatMap(index => kit.pads[index] ?? []), outputs: kit.outputs }
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
  const padIndexes = pads.map((_, i) => padIndex + i)
  const replaced = padIndexes.filter(index => grown.pads[index]!.layers.length > 0)
  const outputsLost = [...new Set(pads.filter(pad => !outputs.has(pad.output)).map(pad => clip.outputs.find(output => output.id === pad.output)?.name ?? pad.output))]
  const pasted = mapPads(grown, padIndexes, (pad, index) => {
    const copied = pads[index - padIndex]!
    const { chokeGroup } = copied
    return {
      ...copied,
      note: pad.note,
      soloed: pad.soloed,
      chokeGroup: chokeGroup === null ? null : groups.has(chokeGroup) ? groups.get(chokeGroup)! : chokeGroup,
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
  return mapPads(kit, padIndexes, pad => ({
    ...copied, name: pad.name, role: pad.role, note: pad.note, layers: pad.layers, alternate: pad.alternate, notes: pad.notes,
    muted: pad.muted, soloed: pad.soloed, held: pad.held, output: outputs.get(copied.output) ?? pad.output,
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
    kit: mapPads(grown, targets, (pad, index) => ({ ...copies[targets.indexOf(index)]!, note: pad.note, soloed: false })),
    padIndexes: targets, replaced: [], leftOver: clip.pads.length - targets.length, renumbered: [], outputsLost: [],
  }
}

/** For each choke group of the pads one that no other pad here uses; null where all 32 are taken. */
function freshGroups(kit: Kit, padIndex: number, pads: readonly Pad[]): Map<number, number | null> {
  const taken = new Set(kit.pads.flatMap((pad, index) => pad.chokeGroup !== null && (index < padIndex || index >= padIndex + pads.length) ? [pad.chokeGroup] : []))
  const wanted = [...new Set(pads.flatMap(pad => pad.chokeGroup ?? []))]
  const groups = new Map<number, number | null>()
  const all = Array.from({ length: MOST_CHOKE_GROUPS }, (_, i) => i + 1)
  for (const group of wanted) {
    const given = new Set([...groups.values()])
    // Groups that come along unchanged are not given to others.
    const free = taken.has(group) || given.has(group) ? all.find(one => !taken.has(one) && !given.has(one) && !wanted.includes(one)) ?? null : group
    groups.set(group, free)
  }
  return groups
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
