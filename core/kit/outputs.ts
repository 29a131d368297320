import { kindLabel, topKind } from '../search/kinds'
import { MOST_OUTPUTS, type Kit } from './document'
import { mapPads } from './edits'

/** Adds an output; the kit itself when it has 16. Its name gets a number where it is taken. */
export function addOutput(kit: Kit, name: string): Kit {
  if (kit.outputs.length >= MOST_OUTPUTS) return kit
  const taken = new Set(kit.outputs.map(output => output.id))
  const id = Array.from({ length: MOST_OUTPUTS + 1 }, (_, i) => `out-${i + 1}`).find(candidate => !taken.has(candidate))!
  return { ...kit, outputs: [...kit.outputs, { id, name: freeName(kit, name) }] }
}

/** Names an output. A name that another has is given a number. */
export function renameOutput(kit: Kit, id: string, name: string): Kit {
  const others = { ...kit, outputs: kit.outputs.filter(output => output.id !== id) }
  return { ...kit, outputs: kit.outputs.map(output => output.id === id ? { ...output, name: freeName(others, name) } : output) }
}

/** Takes an output away; its pads go to the first. The first stays always. */
export function removeOutput(kit: Kit, id: string): Kit {
  const first = kit.outputs[0]!.id
  if (id === first || !kit.outputs.some(output => output.id === id)) return kit
  const pads = kit.pads.flatMap((pad, index) => pad.output === id ? [index] : [])
  return { ...mapPads(kit, pads, pad => ({ ...pad, output: first })), outputs: kit.outputs.filter(output => output.id !== id) }
}

/**
 * Gives each kind an output of its own, in the order of the pads, and its pads to it. What is not told, and the kinds after
 * the sixteenth output, stay on the first.
 */
export function outputsByKind(kit: Kit): Kit {
  const first = kit.outputs[0]!
  const kinds = [...new Set(kit.pads.flatMap(pad => pad.layers.length > 0 && pad.role !== null ? [topKind(pad.role)] : []))].slice(0, MOST_OUTPUTS - 1)
  const outputs = [first, ...kinds.map((kind, i) => ({ id: `out-${i + 1}`, name: kindLabel(kind) }))].map((output, i, all) => ({
    ...output, id: i > 0 && output.id === first.id ? `out-${all.length}` : output.id,
  }))
  const idOf = new Map(kinds.map((kind, i) => [kind, outputs[i + 1]!.id]))
  return {
    ...kit,
    outputs,
    pads: kit.pads.map(pad => ({ ...pad, output: (pad.role !== null && pad.layers.length > 0 ? idOf.get(topKind(pad.role)) : undefined) ?? first.id })),
  }
}

function freeName(kit: Kit, wanted: string): string {
  const name = wanted.trim().slice(0, 70) || 'Output'
  const taken = new Set(kit.outputs.map(output => output.name.toLowerCase()))
  for (let number = 1; ; number++) {
    const candidate = number === 1 ? name : `${name} ${number}`
    if (!taken.has(candidate.toLowerCase())) return candidate
  }
}
