import { counted } from '../wording'
import type { Kit, Pad } from './document'
import { padLabel } from './padLabel'

/** One pad, or the kit as a whole, that is another in a later state. */
export interface Difference {
  readonly what: 'added' | 'removed' | 'altered'
  /** Null for the kit as a whole. */
  readonly padIndex: number | null
  /** In words: the pad's place and name, and what of it changed. */
  readonly text: string
}

const WORDS: Readonly<Record<Exclude<keyof Pad, 'layers'>, string>> = {
  name: 'name', role: 'role', note: 'note', gainDb: 'gain', pan: 'pan', tuneCents: 'tune', play: 'playing', envelope: 'envelope', filter: 'filter', driveDb: 'drive',
  chokeGroup: 'choke group', polyphony: 'voices', output: 'output', muted: 'mute', soloed: 'solo', held: 'hold', notes: 'notes', alternate: 'chosen alternate',
  range: 'note range', velocityTrack: 'velocity', velocityCurve: 'velocity curve', chokedBy: 'groups that cut it', chokeSeconds: 'choke time', alternateController: 'controller', articulation: 'articulation',
}

/** What was added, removed and altered between two states of a kit, pad by pad. */
export function differencesOf(before: Kit, after: Kit): Difference[] {
  const found: Difference[] = []
  const kitWide = [
    before.name !== after.name && `name, now "${after.name}"`,
    before.gainDb !== after.gainDb && 'kit gain',
    before.polyphony !== after.polyphony && 'voices',
    before.target !== after.target && 'target',
    !isEqual(before.outputs, after.outputs) && 'outputs',
    !isEqual([before.articulations, before.articulation, before.articulationController], [after.articulations, after.articulation, after.articulationController]) && 'articulations',
    !isEqual(before.groupPolyphony, after.groupPolyphony) && 'voices of groups',
  ].filter(text => text !== false)
  if (kitWide.length > 0) found.push({ what: 'altered', padIndex: null, text: `The kit: ${kitWide.join(', ')}` })
  const most = Math.max(before.pads.length, after.pads.length)
  for (let padIndex = 0; padIndex < most; padIndex++) {
    const [old, now] = [before.pads[padIndex], after.pads[padIndex]]
    const label = padLabel(padIndex)
    const [held, holds] = [old?.layers.length ?? 0, now?.layers.length ?? 0]
    if (held === 0 && holds > 0) found.push({ what: 'added', padIndex, text: `${label} ${now!.name}` })
    else if (held > 0 && holds === 0) found.push({ what: 'removed', padIndex, text: `${label} ${old!.name}` })
    else if (old && now && !isEqual(old, now)) found.push({ what: 'altered', padIndex, text: `${label} ${now.name || old.name || 'empty'}: ${alterations(old, now).join(', ')}` })
  }
  return found
}

function alterations(before: Pad, after: Pad): string[] {
  const settings = (Object.keys(WORDS) as (keyof typeof WORDS)[]).filter(key => !isEqual(before[key], after[key])).map(key => WORDS[key])
  const [had, has] = [before.layers.map(layer => layer.sound.id), after.layers.map(layer => layer.sound.id)]
  if (!isEqual(had, has)) return [...settings, had.length === has.length ? 'another sound' : `${counted(has.length, 'layer')}, was ${had.length}`]
  return isEqual(before.layers, after.layers) ? settings : [...settings, 'layers']
}

/** True for values that would be written the same. */
function isEqual(one: unknown, other: unknown): boolean {
  if (one === other) return true
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null) return false
  const [keys, others] = [Object.keys(one), Object.keys(other)]
  return keys.length === others.length && keys.every(key => isEqual(Reflect.get(one, key), Reflect.get(other, key)))
}
