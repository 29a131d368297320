import { emptyKit, emptyPad, PADS_PER_BANK, type Kit } from './document'
import { addBank } from './edits'

/** A kit of roles with no sounds yet. */
export interface Blueprint {
  readonly id: string
  readonly name: string
  readonly kit: Kit
}

type Roles = readonly (readonly [note: number, role: string | null])[]

/** 16 pads from note 36 (common practice), with the roles that those keys have in General MIDI System Level 1. */
const STANDARD: Roles = [
  [36, 'kick'], [37, 'rim'], [38, 'snare'], [39, 'clap'], [40, 'snare'], [41, 'tom.low'], [42, 'hat.closed'], [43, 'tom.low'],
  [44, 'hat.pedal'], [45, 'tom.mid'], [46, 'hat.open'], [47, 'tom.mid'], [48, 'tom.high'], [49, 'cymbal.crash'], [50, 'tom.high'], [51, 'cymbal.ride'],
]
/** On their keys in General MIDI System Level 1, percussion key map. */
const HAND_PERCUSSION: Roles = [
  [54, 'shaker.tambourine'], [56, 'metal.cowbell'], [60, 'hand.bongo'], [61, 'hand.bongo'], [62, 'hand.conga'], [63, 'hand.conga'], [64, 'hand.conga'], [65, 'hand.timbale'],
  [66, 'hand.timbale'], [67, 'metal.agogo'], [68, 'metal.agogo'], [69, 'shaker.cabasa'], [70, 'shaker.maracas'], [75, 'wood.claves'], [76, 'wood.block'], [77, 'wood.block'],
  [73, 'wood.scraper'], [74, 'wood.scraper'], [80, 'metal.triangle'], [81, 'metal.triangle'], [39, 'clap'], [82, 'shaker'], [58, 'hand.frame'], [59, 'hand.cajon'],
]
/** From skins to metals to small hand percussion, in the order in which a percussion section is set up (common practice). */
const ORCHESTRAL: Roles = [
  [36, 'kick'], [37, 'kick'], [38, 'snare'], [39, 'snare.brush'], [40, 'tom.low'], [41, 'tom.mid'], [42, 'tom.high'], [43, 'metal.gong'],
  [44, 'cymbal.crash'], [45, 'cymbal.crash'], [46, 'cymbal.ride'], [47, 'cymbal.splash'], [48, 'metal.triangle'], [49, 'metal.triangle'], [50, 'shaker.tambourine'], [51, 'shaker.tambourine'],
  [52, 'wood.block'], [53, 'wood.block'], [54, 'wood.claves'], [55, 'wood.scraper'], [56, 'metal.bell'], [57, 'shaker.sleigh'], [58, 'metal.cowbell'], [59, 'shaker.maracas'],
]

/** Pads of a kit of one kind. */
export const ONE_KIND_SIZES = [16, 32, 64, 128] as const

/** The blueprints that come with Emporion. */
export const BLUEPRINTS: readonly Blueprint[] = [
  { id: 'standard', name: 'Standard, 16 pads', kit: withChokedHats(withRoles('Standard', STANDARD)) },
  { id: 'hand', name: 'Hand percussion, 24 roles', kit: withRoles('Hand percussion', HAND_PERCUSSION) },
  { id: 'orchestral', name: 'Orchestral table, 24 roles', kit: withRoles('Orchestral table', ORCHESTRAL) },
]

/** A blueprint of pads that are all meant for one kind, on notes that follow one another. */
export function oneKind(role: string, label: string, pads: typeof ONE_KIND_SIZES[number]): Blueprint {
  const kit = grown(`${label}, ${pads} pads`, pads)
  return { id: `one-kind-${role}-${pads}`, name: kit.name, kit: { ...kit, pads: kit.pads.map(pad => ({ ...pad, role })) } }
}

/** What a kit is without its sounds: roles, notes, groups, outputs and settings. */
export function blueprintOf(kit: Kit): Kit {
  return { ...kit, pads: kit.pads.map(pad => ({ ...pad, name: '', layers: [], alternate: null, muted: false, soloed: false, held: false })) }
}

function withRoles(name: string, roles: Roles): Kit {
  const kit = grown(name, roles.length)
  const given = new Set(roles.map(([note]) => note))
  const spare = Array.from({ length: 128 }, (_, i) => (36 + i) % 128).filter(note => !given.has(note))
  return { ...kit, pads: kit.pads.map((_, i) => roles[i] ? { ...emptyPad(roles[i][0]), role: roles[i][1] } : emptyPad(spare[i - roles.length]!)) }
}

/** Hats cut one another off, as a foot does. */
function withChokedHats(kit: Kit): Kit {
  return { ...kit, pads: kit.pads.map(pad => pad.role?.startsWith('hat') ? { ...pad, chokeGroup: 1 } : pad) }
}

function grown(name: string, pads: number): Kit {
  let kit = emptyKit(name)
  while (kit.pads.length < Math.ceil(pads / PADS_PER_BANK) * PADS_PER_BANK) kit = addBank(kit)
  return kit
}
