import { MOST_LAYERS, wholeLayer, type Kit, type Layer, type Pad, type SoundRef } from './document'
import { mapPads } from './edits'
import { velocityRanges, type ValueRange } from './ranges'
import { withWholeTurns } from './turns'

/** How layers of a pad meet. */
export interface Coverage {
  /** Velocities at which nothing sounds. */
  readonly gaps: readonly ValueRange[]
  /** Velocities at which several layers sound that neither take turns nor fade into one another. */
  readonly overlaps: readonly ValueRange[]
}

const coverages = new WeakMap<readonly Layer[], Coverage>()

/** Velocities at which a pad is silent, and at which it sounds more than once. Alternates have neither. */
export function coverageOf(pad: Pad): Coverage {
  if (pad.alternate !== null) return { gaps: [], overlaps: [] }
  // Layers never change: what was found of them holds.
  const known = coverages.get(pad.layers)
  if (known) return known
  const found = coverOver(pad)
  coverages.set(pad.layers, found)
  return found
}

function coverOver(pad: Pad): Coverage {
  if (pad.layers.length === 0) return { gaps: [], overlaps: [] }
  const velocities = Array.from({ length: 127 }, (_, i) => i + 1)
  // Which layers sound changes where one of them begins or ends.
  const notes = new Set(pad.layers.flatMap(layer => layer.notes ? [layer.notes.low, layer.notes.high] : []))
  const sets = notes.size === 0 ? [pad.layers] : [...notes].map(note => pad.layers.filter(({ notes: own }) => own === null || (note >= own.low && note <= own.high)))
  return {
    gaps: stretches(velocities.filter(velocity => sets.some(layers => soundingAt(layers, velocity).length === 0))),
    overlaps: stretches(velocities.filter(velocity => sets.some(layers => isDoubled(soundingAt(layers, velocity), velocity)))),
  }
}

/** Puts one more sound on a pad, over all velocities; as one more alternate where it has those. The kit itself when it is full. */
export function addLayer(kit: Kit, padIndex: number, sound: SoundRef): Kit {
  return mapPads(kit, [padIndex], pad => pad.layers.length >= MOST_LAYERS ? pad : { ...pad, layers: [...pad.layers, { ...wholeLayer(sound), gainDb: kit.newSoundGainDb }] })
}

/** Takes a layer off. Turns of those that stay are numbered anew. */
export function removeLayer(kit: Kit, padIndex: number, layerIndex: number): Kit {
  return mapLayers(kit, padIndex, layers => layers[layerIndex] ? layers.toSpliced(layerIndex, 1) : layers)
}

/** Moves a layer to another place among them; where both take turns they exchange their turns with it. */
export function moveLayer(kit: Kit, padIndex: number, from: number, to: number): Kit {
  return mapLayers(kit, padIndex, (layers) => {
    const [moved, other] = [layers[from], layers[to]]
    if (!moved || !other || from === to) return layers
    const turned = moved.turn !== null && other.turn !== null
      ? layers.with(from, { ...moved, turn: other.turn }).with(to, { ...other, turn: moved.turn })
      : layers
    return turned.toSpliced(from, 1).toSpliced(to, 0, turned[from]!)
  })
}

/**
 * Cuts the velocities evenly among the layers, in the order of their velocities now. Those that take turns stay together.
 *
 * @param overlap velocities over which two that meet fade into one another; 0 for none
 */
export function splitEvenly(kit: Kit, padIndex: number, overlap = 0): Kit {
  return mapLayers(kit, padIndex, (layers) => {
    const groups = groupsOf(layers)
    const ranges = velocityRanges(groups.length)
    const widest = Math.min(...ranges.map(range => range.high - range.low))
    const width = Math.min(overlap, widest)
    return layers.map((layer) => {
      const at = groups.findIndex(group => group.includes(layer))
      const range = ranges[at]!
      const isFirst = at === 0
      const isLast = at === groups.length - 1
      return {
        ...layer,
        lowVelocity: isFirst ? range.low : range.low - Math.floor(width / 2),
        highVelocity: isLast ? range.high : range.high + Math.ceil(width / 2),
        fadeInVelocities: isFirst ? 0 : width,
        fadeOutVelocities: isLast ? 0 : width,
      }
    })
  })
}

/** Lets all layers of a pad sound in turn, over all velocities, in their order. */
export function takeTurns(kit: Kit, padIndex: number): Kit {
  return mapLayers(kit, padIndex, layers => layers.map((layer, i) => ({
    ...layer, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: layers.length > 1 ? i + 1 : null, chance: null,
  })))
}

/** Lets one of all layers of a pad sound at each hit, drawn by chance, each as often. */
export function drawByChance(kit: Kit, padIndex: number): Kit {
  return mapLayers(kit, padIndex, layers => layers.map((layer, i) => ({
    ...layer, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null,
    chance: layers.length > 1 ? { low: i / layers.length, high: (i + 1) / layers.length } : null,
  })))
}

/** Lets all layers of a pad sound together, at every velocity. */
export function stackLayers(kit: Kit, padIndex: number): Kit {
  return mapLayers(kit, padIndex, layers => layers.map(layer => ({ ...layer, lowVelocity: 1, highVelocity: 127, fadeInVelocities: 0, fadeOutVelocities: 0, turn: null, chance: null })))
}

/** Moves the border between layers: those that end at one velocity end at another, and those that began above follow. */
export function moveBorder(kit: Kit, padIndex: number, from: number, to: number): Kit {
  const border = Math.max(1, Math.min(126, to))
  return mapLayers(kit, padIndex, layers => layers.map((layer) => {
    if (layer.highVelocity === from && border >= layer.lowVelocity) return { ...layer, highVelocity: border }
    if (layer.lowVelocity === from + 1 && border < layer.highVelocity) return { ...layer, lowVelocity: border + 1 }
    return layer
  }))
}

/** Makes a pad choose one of its layers by a value, or, by null, lets them sound by velocity. */
export function setAlternate(kit: Kit, padIndex: number, value: number | null): Kit {
  return mapPads(kit, [padIndex], (pad) => {
    if (pad.alternate === value) return pad
    return { ...pad, alternate: value === null ? null : Math.max(0, Math.min(127, Math.round(value))) }
  })
}

/** Layers of the same velocities, soft to hard. */
function groupsOf(layers: readonly Layer[]): Layer[][] {
  const groups = new Map<string, Layer[]>()
  for (const layer of layers) {
    // Layers that take no turns are a group each, so that a stack can be spread over velocity.
    const key = layer.turn === null ? `alone ${groups.size}` : `${layer.lowVelocity}-${layer.highVelocity}`
    groups.set(key, [...groups.get(key) ?? [], layer])
  }
  return [...groups.values()].sort((a, b) => a[0]!.lowVelocity - b[0]!.lowVelocity || a[0]!.highVelocity - b[0]!.highVelocity)
}

function soundingAt(layers: readonly Layer[], velocity: number): Layer[] {
  return layers.filter(layer => velocity >= layer.lowVelocity && velocity <= layer.highVelocity)
}

function isDoubled(layers: readonly Layer[], velocity: number): boolean {
  const steady = layers.filter(layer => velocity >= layer.lowVelocity + layer.fadeInVelocities && velocity <= layer.highVelocity - layer.fadeOutVelocities)
  const alone = steady.filter(layer => layer.turn === null && layer.chance === null).length
  return alone + (steady.length > alone ? 1 : 0) > 1
}

function stretches(values: readonly number[]): ValueRange[] {
  const found: { low: number, high: number }[] = []
  for (const value of values) {
    const last = found.at(-1)
    if (last && last.high === value - 1) last.high = value
    else found.push({ low: value, high: value })
  }
  return found
}

/** Changes the layers of a pad. Velocity fades that no longer fit are shortened, and turns numbered anew. */
function mapLayers(kit: Kit, padIndex: number, change: (layers: readonly Layer[]) => readonly Layer[]): Kit {
  return mapPads(kit, [padIndex], (pad) => {
    const changed = change(pad.layers)
    if (changed === pad.layers) return pad
    return { ...pad, layers: withWholeTurns(changed.map(fitting)) }
  })
}

function fitting(layer: Layer): Layer {
  const width = layer.highVelocity - layer.lowVelocity
  return { ...layer, fadeInVelocities: Math.min(layer.fadeInVelocities, width), fadeOutVelocities: Math.min(layer.fadeOutVelocities, width) }
}
