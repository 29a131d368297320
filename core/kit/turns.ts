import type { Layer, Pad } from './document'

/** How often each layer's velocities were hit so far, by `turnKey`. */
export type HitCounts = ReadonlyMap<string, number>

/** Names a layer for counting its hits. */
export function turnKey(padIndex: number, layerIndex: number): string {
  return `${padIndex}:${layerIndex}`
}

/** How many layers of a pad take turns with this one: those of its velocities and notes. Source: SFZ v1, `seq_length`. */
export function turnsOf(pad: Pad, layer: Layer): number {
  return pad.layers.reduce((most, other) => isAlike(layer, other) ? Math.max(most, other.turn ?? 0) : most, 0)
}

/** Numbers the turns of a pad's layers anew, from 1 without a gap, in the order that they had. A layer left alone sounds at every hit. */
export function withWholeTurns(layers: readonly Layer[]): readonly Layer[] {
  const numbered = layers.map((layer) => {
    if (layer.turn === null) return layer
    const group = layers.filter(other => other.turn !== null && isAlike(layer, other)).sort((a, b) => a.turn! - b.turn!)
    const turn = group.length < 2 ? null : [...new Set(group.map(other => other.turn))].indexOf(layer.turn) + 1
    return turn === layer.turn ? layer : { ...layer, turn }
  })
  return numbered.every((layer, i) => layer === layers[i]) ? layers : numbered
}

function isAlike(one: Layer, other: Layer): boolean {
  return one.lowVelocity === other.lowVelocity && one.highVelocity === other.highVelocity && one.notes?.low === other.notes?.low && one.notes?.high === other.notes?.high
}
