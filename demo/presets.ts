import type { OwnPattern } from '../core/formats/package/kitFile'
import { patternFromSteps } from '../core/groove/steps'
import { barTicks, type Pattern } from '../core/groove/document'
import { shippedId, SHIPPED_PATTERNS } from '../core/groove/shipped'
import { emptyKit, MOST_PADS, type Kit } from '../core/kit/document'
import { mapPads, placeSounds, setPads } from '../core/kit/edits'
import { kitSet } from '../core/kit/kitSet'
import type { KnownSound } from '../core/kit/parts'
import { place } from '../core/kit/placing'
import { evenCuts, slice } from '../core/kit/trims'

/** A preset of the demo, ready to be stored. */
export interface DemoPreset {
  readonly name: string
  readonly kit: Kit
  readonly pattern?: OwnPattern
}

const SLICES = 16
const HATS = 1
const FIRST = 36

/**
 * The presets of the collective: one-kind kits, a standard kit with layers and turns, hand percussion, a sliced loop, a pack split
 * by kind, alternates, and one that no device takes whole.
 *
 * @param sounds of each pack, by the pack's name
 */
export function demoPresets(sounds: ReadonlyMap<string, readonly KnownSound[]>): DemoPreset[] {
  const pack = (name: string) => sounds.get(name) ?? []
  const [ferry, harbour, engine, quay] = [pack('Nachtfähre'), pack('HARBOUR_TOOLS'), pack('Engine Room Sessions'), pack('Quay 9 field kit')]
  const named = (of: readonly KnownSound[], ...starts: readonly string[]) => starts.flatMap(start => of.filter(({ sound }) => sound.name.startsWith(start)))
  const of = (all: readonly KnownSound[], ...kinds: readonly string[]) => all.filter(({ kind }) => kinds.some(wanted => kind === wanted || kind?.startsWith(`${wanted}.`)))
  const everything = [...ferry, ...harbour, ...engine, ...quay]
  return [
    { name: 'Night watch', kit: choked(inOrder('Night watch', [...named(ferry, 'Kick tief 01', 'Snare Oberdeck 01', 'Clap Möwendeck 01'), ...takes(engine, 'hi-hat closed'), ...takes(engine, 'hi-hat open'), ...named(ferry, 'Floor Tom 01', 'Mid Tom 01', 'High Tom 01', 'Crash Schornstein 01', 'Ride Reling 01', 'Splash 01')])), pattern: shipped('Night watch') },
    { name: 'Deck crew', kit: choked(byKind('Deck crew', named(harbour, 'HBR_BD_001', 'HBR_SD_003', 'HBR_RS_002', 'HBR_CP_004', 'HBR_CHH_005', 'HBR_PHH_001', 'HBR_OHH_002', 'HBR_LT_001', 'HBR_MT_001', 'HBR_HT_001', 'HBR_CRS_001', 'HBR_RD_001', 'HBR_CB_002', 'HBR_SHK_003'))), pattern: shipped('Deck shoes') },
    { name: 'Harbour kicks', kit: inOrder('Harbour kicks', of(harbour, 'kick')), pattern: shipped('Boiler room door') },
    { name: 'Quay snares and claps', kit: inOrder('Quay snares and claps', of(quay, 'snare', 'clap', 'rim')) },
    { name: 'Harbour hats', kit: choked(inOrder('Harbour hats', named(harbour, 'HBR_CHH', 'HBR_PHH', 'HBR_OHH'))) },
    { name: 'Hands of the quay', kit: byKind('Hands of the quay', [...of(harbour, 'hand', 'shaker', 'wood', 'metal'), ...named(ferry, 'Frame Drum', 'Tamb')]), pattern: shippedWith('hand.conga') },
    { name: 'Anvil, chain and bell', kit: inOrder('Anvil, chain and bell', [...of(engine, 'metal'), ...of(quay, 'metal')]) },
    { name: 'Bilge pump in slices', kit: slicedLoop('Bilge pump in slices', named(engine, 'Bilge Pump')[0]), pattern: { id: 'demo-bilge-pump', document: slicesInOrder() } },
    { name: 'Gulls and shouts', kit: alternates('Gulls and shouts', named(quay, 'Gull'), takes(engine, 'voice shout')) },
    ...kitSet('Engine room', engine.filter(({ kind }) => kind !== 'loop')).map(kit => ({ name: kit.name, kit })),
    { name: 'Everything aboard', kit: everythingAboard(everything, harbour) },
  ].filter(({ kit }) => kit.pads.some(pad => pad.layers.length > 0))
}

/** All pads full, the last one with a whole pack in turn: more pads, layers and turns than any device has. */
function everythingAboard(everything: readonly KnownSound[], inTurn: readonly KnownSound[]): Kit {
  const { kit } = place(emptyKit('Everything aboard'), everything, { type: 'in order', startNote: 0, gap: 0, families: true })
  return kit.pads.length < MOST_PADS ? kit : place(kit, inTurn, { type: 'round robin', padIndex: MOST_PADS - 1 }).kit
}

function takes(pack: readonly KnownSound[], name: string): KnownSound[] {
  return pack.filter(({ sound }) => sound.name.includes(` - ${name} - take `))
}

function inOrder(name: string, sounds: readonly KnownSound[]): Kit {
  return place(emptyKit(name), sounds, { type: 'in order', startNote: Math.min(FIRST, Math.max(0, MOST_PADS - sounds.length)), gap: 0, families: true }).kit
}

function byKind(name: string, sounds: readonly KnownSound[]): Kit {
  return place(emptyKit(name), sounds, { type: 'by kind', families: true }).kit
}

/** Closed and pedalled hats cut the open ones, and not the other way. */
function choked(kit: Kit): Kit {
  const hats = (...roles: readonly string[]) => kit.pads.flatMap((pad, index) => pad.role !== null && roles.includes(pad.role) ? [index] : [])
  return setPads(setPads(kit, hats('hat', 'hat.closed', 'hat.pedal'), { chokeGroup: HATS, chokedBy: [] }), hats('hat.open'), { chokeGroup: HATS, chokeSeconds: 0.03 })
}

function slicedLoop(name: string, loop: KnownSound | undefined): Kit {
  if (!loop) return emptyKit(name)
  const { kit } = placeSounds(emptyKit(name), 0, [loop])
  return slice(kit, 0, evenCuts(kit.pads[0]!.layers[0]!, SLICES)).kit
}

/** Each slice on its own step, so that the loop is heard as it was. */
function slicesInOrder(): Pattern {
  const metre = { beats: 4, unit: 4 } as const
  const step = barTicks(metre) / SLICES
  return {
    ...patternFromSteps({ name: 'Bilge pump, slice by slice', folder: '', tags: [], tempoBpm: 96, bars: 1, lines: {} }),
    parts: Array.from({ length: SLICES }, (_, i) => ({ id: `slice-${i + 1}`, name: `Slice ${i + 1}`, role: null, note: FIRST + i, hits: [{ tick: i * step, velocity: 127, length: step }] })),
  }
}

/** Each group on one pad, of which a value chooses the one that sounds. */
function alternates(name: string, ...groups: readonly (readonly KnownSound[])[]): Kit {
  const filled = groups.reduce((kit, group, padIndex) => place(kit, group, { type: 'alternates', padIndex }).kit, emptyKit(name))
  return mapPads(filled, groups.map((_, i) => i), pad => ({ ...pad, alternate: 0 }))
}

function shipped(name: string): OwnPattern | undefined {
  const written = SHIPPED_PATTERNS.find(pattern => pattern.name === name)
  return written && { id: shippedId(written), document: patternFromSteps(written) }
}

function shippedWith(kind: string): OwnPattern | undefined {
  const written = SHIPPED_PATTERNS.find(pattern => kind in pattern.lines)
  return written && { id: shippedId(written), document: patternFromSteps(written) }
}
