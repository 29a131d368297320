import { counted } from '../../wording'
import type { Envelope, Filter, Kit, Layer, Pad } from '../../kit/document'
import { padLabel } from '../../kit/padLabel'
import { equalRanges } from '../../kit/ranges'
import { turnsOf } from '../../kit/turns'

/** General purpose controller 1 (MIDI 1.0). */
const ALTERNATES_CONTROLLER = 16

/** Where a layer's audio lies, relative to the SFZ file. */
export interface SfzSample {
  readonly path: string
  /** The file holds just the trimmed part, already reversed and faded (SFZ v1 knows neither). */
  readonly baked: boolean
}

/**
 * Writes a kit as SFZ: a group for each pad, with a comment that names it, and a region for each layer. Gain, pan, tune, trims,
 * velocity ranges, crossfades and curves, note ranges, turns and chance, envelope, filter, choke groups, articulations, outputs and
 * one-shot or gated playing are carried over; alternates are chosen by their controller, else by 16 (general purpose 1 in MIDI 1.0).
 * SFZ has no drive; a comment says so.
 * Source: SFZ v1 opcodes (`references.md`); `end` is the last frame that sounds; `output`, `note_polyphony` and labels as later players
 * have them (common practice).
 *
 * @param sampleOf the file of a layer
 */
export function writeSfz(kit: Kit, sampleOf: (layer: Layer) => SfzSample): string {
  const lines = [
    `// ${oneLine(kit.name)}`,
    `// ${counted(kit.pads.filter(pad => pad.layers.length > 0).length, 'pad')}, written by Emporion`,
    '',
  ]
  kit.pads.forEach((pad, padIndex) => {
    if (pad.layers.length === 0) return
    lines.push(`// Pad ${padLabel(padIndex)}, note ${pad.note}: ${oneLine(pad.name)}`)
    if (pad.driveDb > 0) lines.push(`// Driven by ${number(pad.driveDb)} dB, which SFZ cannot say`)
    lines.push(`<group> ${group(kit, pad)}`)
    pad.layers.forEach((layer, index) => lines.push(region(kit, pad, layer, index, sampleOf(layer))))
    lines.push('')
  })
  return lines.join('\n')
}

/** What all layers of a pad have in common. */
function group(kit: Kit, pad: Pad): string {
  const output = kit.outputs.findIndex(({ id }) => id === pad.output)
  const opcodes: (string | false)[] = [
    ...notes(pad),
    `loop_mode=${pad.play === 'gated' ? 'no_loop' : 'one_shot'}`,
    pad.pan !== 0 && `pan=${number(pad.pan * 100)}`,
    ...(hasOwn(pad, 'envelope') ? [] : envelope(pad.envelope, pad.play)),
    ...(hasOwn(pad, 'filter') ? [] : filter(pad.filter)),
    ...velocity(pad),
    ...choke(kit, pad),
    pad.polyphony !== null && `note_polyphony=${pad.polyphony}`,
    output > 0 && `output=${output}`,
  ]
  const label = labelOf(pad.name)
  return [opcodes.filter(Boolean).join(' '), ...articulation(kit, pad), ...label === '' ? [] : [`group_label=${label}`]].join('\n')
}

function notes({ note, range }: Pad): string[] {
  return range === null ? [`key=${note}`, `pitch_keycenter=${note}`] : [`lokey=${range.low} hikey=${range.high}`, `pitch_keycenter=${range.root} pitch_keytrack=${number(range.trackCents)}`]
}

/** Whether layers of a pad have something of their own, which is written with each then. */
function hasOwn(pad: Pad, setting: 'envelope' | 'filter'): boolean {
  return pad.layers.some(layer => layer[setting] !== null)
}

function velocity({ velocityTrack, velocityCurve }: Pad): (string | false)[] {
  return [
    velocityTrack !== 1 && `amp_veltrack=${number(velocityTrack * 100)}`,
    ...(velocityCurve ?? []).map(({ velocity, level }) => `amp_velcurve_${velocity}=${number(level)}`),
  ]
}

/** SFZ names one group that cuts a region off. */
function choke(kit: Kit, { chokeGroup, chokedBy, chokeSeconds }: Pad): (string | false)[] {
  const [by] = chokedBy ?? (chokeGroup === null ? [] : [chokeGroup])
  const voices = kit.groupPolyphony.find(one => one.group === chokeGroup)?.voices
  return [
    chokeGroup !== null && `group=${chokeGroup}`,
    by !== undefined && `off_by=${by} ${chokeSeconds > 0 ? `off_mode=time off_time=${number(chokeSeconds)}` : 'off_mode=fast'}`,
    voices !== undefined && `polyphony=${voices}`,
  ]
}

/** One without a key sounds while none of those is held that last only as long. */
function articulation(kit: Kit, pad: Pad): string[] {
  const own = kit.articulations.find(({ id }) => id === pad.articulation)
  if (!own) return []
  const keys = kit.articulations.flatMap(({ key }) => key ?? [])
  const first = kit.articulations.find(({ id }) => id === kit.articulation) ?? kit.articulations[0]!
  const held = kit.articulations.find(({ whileHeld }) => whileHeld)?.key ?? null
  const by = own.key !== null ? `${own.whileHeld ? 'sw_down' : 'sw_last'}=${own.key}` : held === null ? '' : `sw_up=${held}`
  if (by === '') return []
  const range = `sw_lokey=${Math.min(...keys)} sw_hikey=${Math.max(...keys)}${first.key === null ? '' : ` sw_default=${first.key}`}`
  return [`${range} ${by}`, `sw_label=${labelOf(own.name)}`]
}

/** A value runs to the next opcode, header or comment: a name that looks like one of them is kept from it. */
function labelOf(name: string): string {
  return oneLine(name).replace(/[=<>$#]/g, '-').replace(/\/(?=[/*])/g, '-').trim()
}

function region(kit: Kit, pad: Pad, layer: Layer, layerIndex: number, sample: SfzSample): string {
  const cents = pad.tuneCents + layer.tuneCents
  const transpose = Math.trunc(cents / 100)
  const tune = number(cents - transpose * 100)
  const gainDb = kit.gainDb + pad.gainDb + layer.gainDb
  const opcodes: (string | false)[] = [
    ...(pad.alternate === null ? byVelocity(pad, layer) : byController(pad, layerIndex)),
    gainDb !== 0 && `volume=${number(gainDb)}`,
    transpose !== 0 && `transpose=${transpose}`,
    tune !== '0' && `tune=${tune}`,
    layer.pan !== null && `pan=${number(layer.pan * 100)}`,
    ...(hasOwn(pad, 'envelope') ? envelope(layer.envelope ?? pad.envelope, pad.play) : []),
    ...(hasOwn(pad, 'filter') ? filter(layer.filter ?? pad.filter) : []),
    layer.notes !== null && `lokey=${layer.notes.low} hikey=${layer.notes.high} pitch_keycenter=${layer.notes.root} pitch_keytrack=${number(layer.notes.trackCents)}`,
    layer.chance !== null && `lorand=${number(layer.chance.low)} hirand=${number(layer.chance.high)}`,
    !sample.baked && layer.startFrame > 0 && `offset=${layer.startFrame}`,
    !sample.baked && layer.endFrame < layer.sound.frames && `end=${layer.endFrame - 1}`,
  ]
  return `<region> ${opcodes.filter(Boolean).join(' ')}\nsample=${sample.path}`
}

function byVelocity(pad: Pad, layer: Layer): (string | false)[] {
  const { lowVelocity: low, highVelocity: high, fadeInVelocities: coming, fadeOutVelocities: going, turn } = layer
  return [
    low > 1 && `lovel=${low}`,
    high < 127 && `hivel=${high}`,
    coming > 0 && `xfin_lovel=${low - 1} xfin_hivel=${low + coming}`,
    going > 0 && `xfout_lovel=${high - going} xfout_hivel=${high + 1}`,
    turn !== null && `seq_length=${turnsOf(pad, layer)} seq_position=${turn}`,
  ]
}

function byController(pad: Pad, layerIndex: number): string[] {
  const { low, high } = equalRanges(pad.layers.length)[layerIndex]!
  const controller = pad.alternateController ?? ALTERNATES_CONTROLLER
  return [`locc${controller}=${low}`, `hicc${controller}=${high}`]
}

/** SFZ falls to its sustain level, which is left at nothing where the hit decays. */
function envelope({ attackSeconds, holdSeconds, decaySeconds, releaseSeconds }: Envelope, play: Pad['play']): (string | false)[] {
  return [
    attackSeconds > 0 && `ampeg_attack=${number(attackSeconds)}`,
    holdSeconds > 0 && decaySeconds !== null && `ampeg_hold=${number(holdSeconds)}`,
    decaySeconds !== null && `ampeg_decay=${number(decaySeconds)} ampeg_sustain=0`,
    play === 'gated' && `ampeg_release=${number(releaseSeconds)}`,
  ]
}

const FILTERS = { 'low-pass': 'lpf_2p', 'high-pass': 'hpf_2p', 'band-pass': 'bpf_2p' } as const

function filter(set: Filter | null): string[] {
  return set === null ? [] : [`fil_type=${FILTERS[set.type]}`, `cutoff=${number(set.cutoffHz)}`, `resonance=${number(set.resonanceDb)}`]
}

function number(value: number): string {
  return String(Number(value.toFixed(6)))
}

function oneLine(text: string): string {
  return text.replace(/[\r\n]+/g, ' ')
}
