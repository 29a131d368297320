import { noteLabel, type MiddleC } from '../audio/notes'
import { groupBy } from '../groupBy'
import { counted, listed } from '../wording'
import { chosenAlternate, type Kit, type Pad } from './document'
import { mapPads, setPads } from './edits'
import { coverageOf } from './layerEdits'
import { beyondLimits, type Limits } from './limits'
import { moveToNote, nextFreeNote, notesOf } from './noteEdits'
import { padLabel } from './padLabel'
import { silencingOf } from './silencing'
import { turnsOf } from './turns'

/** Why a pad may be silent or sound wrong. */
export type Cause =
  | 'muted' | 'not soloed' | 'output unused' | 'gain at zero' | 'velocity gap' | 'velocity doubled' | 'trimmed to nothing' | 'missing sample'
  | 'choked by itself' | 'never choked' | 'out of force' | 'range unplayed' | 'note taken twice' | 'stolen by polyphony' | 'beyond the target' | 'empty turn'

/** One thing found, in words, with the edit that mends it. */
export interface Finding {
  readonly padIndex: number
  readonly cause: Cause
  readonly what: string
  /** Undefined where only a person can decide, as for a sample that is away. */
  readonly mend?: { readonly label: string, readonly edit: (kit: Kit) => Kit }
}

export interface KnownOfSounds {
  /** Sounds of which the file cannot be found. */
  readonly missing: ReadonlySet<string>
  readonly limits?: Limits
  readonly middleC?: MiddleC
}

/** Below this a layer is not heard beside others (common practice: the range of 16 bits). */
const INAUDIBLE_DB = -90
/** Shorter than this a sound is a click at most. */
const SHORTEST_SECONDS = 0.001
const MOST_NAMED = 6

/** Looks a kit over for pads that are silent or sound wrong, in the order of the pads. */
export function diagnose(kit: Kit, known: KnownOfSounds): Finding[] {
  const solo = soloOf(kit)
  const beyond = known.limits ? beyondLimits(kit, known.limits) : []
  const shared = sharedOf(kit)
  return kit.pads.flatMap((pad, padIndex) => {
    const first = solo?.padIndex === padIndex ? [solo] : []
    if (pad.layers.length === 0) return first
    return [
      ...first,
      ...states(pad, padIndex),
      ...levels(kit, pad, padIndex),
      ...layers(pad, padIndex, known.missing),
      ...neighbours(kit, pad, padIndex, known.middleC ?? 'C3', shared),
      ...beyond.filter(one => one.padIndex === padIndex).map((one): Finding => ({ padIndex, cause: 'beyond the target', what: `${one.what} ${one.next}`, mend: one.limit === 'note' ? withinNotes(kit, padIndex, known.limits!) : undefined })),
    ]
  })
}

function states(pad: Pad, padIndex: number): Finding[] {
  const label = padLabel(padIndex)
  return pad.muted ? [{ padIndex, cause: 'muted', what: `${label} is muted.`, mend: { label: `Unmute ${label}`, edit: now => setPads(now, [padIndex], { muted: false }) } }] : []
}

/** All solos are one finding, at the first of them: what they silence is many pads, and the reason one. */
function soloOf(kit: Kit): Finding | undefined {
  const silencing = silencingOf(kit)
  const [first] = silencing?.soloed ?? []
  if (!silencing || first === undefined || silencing.silencedBySolo.length === 0) return undefined
  const { soloed, silencedBySolo } = silencing
  const empty = soloed.every(index => kit.pads[index]!.layers.length === 0)
  return {
    padIndex: first, cause: 'not soloed',
    what: `${listed(soloed.map(padLabel), MOST_NAMED)} ${soloed.length === 1 ? 'is' : 'are'} soloed${empty ? ' and empty' : ''}, so ${counted(silencedBySolo.length, 'other pad')} ${silencedBySolo.length === 1 ? 'is' : 'are'} silent.`,
    mend: { label: soloed.length === 1 ? 'End this solo' : 'End all solos', edit: now => mapPads(now, now.pads.map((_, index) => index), one => one.soloed ? { ...one, soloed: false } : one) },
  }
}

function levels(kit: Kit, pad: Pad, padIndex: number): Finding[] {
  const label = padLabel(padIndex)
  const loudest = Math.max(...pad.layers.map(layer => layer.gainDb)) + pad.gainDb + kit.gainDb
  if (loudest > INAUDIBLE_DB) return []
  return [{
    padIndex, cause: 'gain at zero', what: `${label} is turned down to ${loudest.toFixed(0)} dB, below what is heard.`,
    mend: { label: `Set the gain of ${label} back to 0 dB`, edit: now => mapPads({ ...now, gainDb: now.gainDb <= INAUDIBLE_DB ? 0 : now.gainDb }, [padIndex], one => ({ ...one, gainDb: 0, layers: one.layers.map(layer => layer.gainDb <= INAUDIBLE_DB ? { ...layer, gainDb: 0 } : layer) })) },
  }]
}

function layers(pad: Pad, padIndex: number, missing: ReadonlySet<string>): Finding[] {
  const label = padLabel(padIndex)
  const found: Finding[] = []
  const chosen = chosenAlternate(pad)
  const heard = chosen === undefined ? pad.layers : pad.layers.slice(chosen, chosen + 1)
  const away = heard.filter(layer => missing.has(layer.sound.id))
  if (away.length > 0) found.push({ padIndex, cause: 'missing sample', what: `The file of "${away[0]!.sound.name}" on ${label} cannot be found. Bring its folder in again, or put another sound on the pad.` })
  const short = heard.filter(layer => (layer.endFrame - layer.startFrame) / layer.sound.sampleRate < SHORTEST_SECONDS && layer.endFrame - layer.startFrame < layer.sound.frames)
  if (short.length > 0) {
    found.push({ padIndex, cause: 'trimmed to nothing', what: `${label} is trimmed to less than 1 ms.`, mend: { label: `Give ${label} its whole sound`, edit: now => mapPads(now, [padIndex], one => ({ ...one, layers: one.layers.map(layer => short.some(cut => cut.sound.id === layer.sound.id) ? { ...layer, startFrame: 0, endFrame: layer.sound.frames } : layer) })) } })
  }
  const { gaps, overlaps } = coverageOf(pad)
  if (gaps.length > 0) {
    const ranges = gaps.map(({ low, high }) => low === high ? `${low}` : `${low}–${high}`).join(', ')
    found.push({ padIndex, cause: 'velocity gap', what: `${label} is silent at velocities ${ranges}.`, mend: { label: `Close the gaps of ${label}`, edit: now => closeGaps(now, padIndex) } })
  }
  const isLayered = pad.layers.some(layer => layer.lowVelocity > 1 || layer.highVelocity < 127)
  if (isLayered && overlaps.length > 0) {
    const ranges = overlaps.map(({ low, high }) => low === high ? `${low}` : `${low}–${high}`).join(', ')
    found.push({ padIndex, cause: 'velocity doubled', what: `${label} sounds twice at velocities ${ranges}.`, mend: { label: `End the doubling on ${label}`, edit: now => endDoubling(now, padIndex) } })
  }
  const idle = pad.alternate === null ? pad.layers.filter(layer => layer.turn !== null && turnsOf(pad, layer) < 2) : []
  if (idle.length > 0) found.push({ padIndex, cause: 'empty turn', what: `A layer of ${label} takes turns with none.`, mend: { label: 'Let it sound at every hit', edit: now => mapPads(now, [padIndex], one => ({ ...one, layers: one.layers.map(layer => layer.turn !== null && turnsOf(one, layer) < 2 ? { ...layer, turn: null } : layer) })) } })
  return found
}

/** Notes and choke groups with the pads that share them. */
interface Shared {
  readonly notes: ReadonlyMap<number, readonly number[]>
  readonly groups: ReadonlyMap<number | null, readonly number[]>
}

function sharedOf(kit: Kit): Shared {
  const filled = kit.pads.flatMap((pad, index) => pad.layers.length > 0 ? [index] : [])
  const onNotes = filled.flatMap(index => notesOf(kit.pads[index]!).map(note => ({ note, index })))
  return {
    notes: new Map([...groupBy(onNotes, ({ note }) => note)].map(([note, all]) => [note, all.map(({ index }) => index)])),
    groups: groupBy(filled, index => kit.pads[index]!.chokeGroup),
  }
}

/** Pads of two articulations never sound at once. */
function mayMeet(one: Pad, other: Pad): boolean {
  return one.articulation === null || other.articulation === null || one.articulation === other.articulation
}

function neighbours(kit: Kit, pad: Pad, padIndex: number, middleC: MiddleC, shared: Shared): Finding[] {
  const label = padLabel(padIndex)
  const found: Finding[] = []
  const doubled = notesOf(pad).filter(note => (shared.notes.get(note) ?? []).some(index => index < padIndex && mayMeet(pad, kit.pads[index]!)))
  if (doubled.length > 0) {
    const twins = [...new Set(doubled.flatMap(note => shared.notes.get(note)!))].filter(index => index < padIndex && mayMeet(pad, kit.pads[index]!)).sort((a, b) => a - b)
    const free = nextFreeNote(kit, pad.note)
    const where = doubled.length === 1 ? `both are on note ${noteLabel(doubled[0]!, middleC)}` : `both are on the notes ${noteLabel(doubled[0]!, middleC)} to ${noteLabel(doubled.at(-1)!, middleC)}`
    found.push({
      padIndex, cause: 'note taken twice', what: `${label} sounds together with ${listed(twins.map(padLabel), MOST_NAMED)}: ${where}.`,
      mend: free === undefined || pad.range !== null ? undefined : { label: `Move ${label} to the free note ${noteLabel(free, middleC)}`, edit: now => moveToNote(now, padIndex, free) },
    })
  }
  const unheard = (pad.chokedBy ?? []).filter(group => !shared.groups.has(group))
  if (unheard.length > 0) {
    found.push({ padIndex, cause: 'never choked', what: `${label} is set to be cut by choke ${unheard.length === 1 ? 'group' : 'groups'} ${listed(unheard.map(String), MOST_NAMED)}, which ${unheard.length === 1 ? 'has' : 'have'} no pads.`, mend: { label: `Remove ${unheard.length === 1 ? 'that group' : 'those groups'} from ${label}`, edit: now => mapPads(now, [padIndex], one => ({ ...one, chokedBy: one.chokedBy && one.chokedBy.filter(group => !unheard.includes(group)) })) } })
  }
  const outside = pad.alternate === null && pad.layers.filter(layer => layer.notes && (layer.notes.high < notesOf(pad)[0]! || layer.notes.low > notesOf(pad).at(-1)!)).length
  if (outside) found.push({ padIndex, cause: 'range unplayed', what: `${counted(outside, 'layer')} of ${label} ${outside === 1 ? 'has' : 'have'} notes outside the pad's range.`, mend: { label: `Play all layers of ${label} over its whole range`, edit: now => mapPads(now, [padIndex], one => ({ ...one, layers: one.layers.map(layer => layer.notes ? { ...layer, notes: null } : layer) })) } })
  if (pad.articulation !== null && cannotBeChosen(kit, pad.articulation)) found.push({ padIndex, cause: 'out of force', what: `${label} plays only in the articulation "${nameOfArticulation(kit, pad.articulation)}", which no key or controller selects.`, mend: { label: `Play ${label} in all articulations`, edit: now => setPads(now, [padIndex], { articulation: null }) } })
  const cutsItself = pad.chokedBy === null || (pad.chokeGroup !== null && pad.chokedBy.includes(pad.chokeGroup))
  const cutsOthers = kit.pads.some(other => other !== pad && other.layers.length > 0 && pad.chokeGroup !== null && other.chokedBy?.includes(pad.chokeGroup))
  if (pad.chokeGroup !== null && cutsItself && !cutsOthers && (shared.groups.get(pad.chokeGroup) ?? []).length < 2) {
    found.push({ padIndex, cause: 'choked by itself', what: `${label} is alone in choke group ${pad.chokeGroup}: each hit cuts off the one before.`, mend: { label: `Take ${label} out of its choke group`, edit: now => setPads(now, [padIndex], { chokeGroup: null }) } })
  }
  const stack = mostAtOnce(pad)
  const room = Math.min(kit.polyphony, pad.polyphony ?? kit.polyphony)
  if (stack > kit.polyphony) {
    found.push({ padIndex, cause: 'stolen by polyphony', what: `One hit of ${label} needs ${stack} voices; the kit has ${kit.polyphony}.`, mend: { label: `Give the kit ${Math.min(256, stack * 4)} voices`, edit: now => ({ ...now, polyphony: Math.min(256, Math.max(now.polyphony, stack * 4)) }) } })
  }
  else if (stack > room) {
    found.push({ padIndex, cause: 'stolen by polyphony', what: `One hit of ${label} needs ${stack} voices; the pad has ${room}, so that each hit cuts off the one before.`, mend: { label: `Give ${label} ${stack} voices`, edit: now => setPads(now, [padIndex], { polyphony: Math.min(64, stack) }) } })
  }
  const others = kit.outputs.map(output => output.id)
  if (!others.includes(pad.output)) found.push({ padIndex, cause: 'output unused', what: `${label} goes to an output that the kit does not have.`, mend: { label: `Send ${label} to ${kit.outputs[0]!.name}`, edit: now => setPads(now, [padIndex], { output: now.outputs[0]!.id }) } })
  return found
}

function cannotBeChosen(kit: Kit, id: string): boolean {
  const first = kit.articulation ?? kit.articulations[0]?.id
  return id !== first && kit.articulationController === null && kit.articulations.find(one => one.id === id)?.key === null
}

function nameOfArticulation(kit: Kit, id: string): string {
  return kit.articulations.find(one => one.id === id)?.name ?? id
}

const atOnce = new WeakMap<Pad['layers'], number>()

/** Layers that one hit starts at most. */
function mostAtOnce(pad: Pad): number {
  if (pad.alternate !== null) return 1
  const known = atOnce.get(pad.layers) ?? countAtOnce(pad)
  atOnce.set(pad.layers, known)
  return known
}

function countAtOnce(pad: Pad): number {
  return Math.max(...Array.from({ length: 127 }, (_, i) => {
    const at = pad.layers.filter(layer => i + 1 >= layer.lowVelocity && i + 1 <= layer.highVelocity)
    const steady = at.filter(layer => (layer.turn === null || layer.turn === 1) && layer.chance === null).length
    const drawn = at.flatMap(({ chance }) => chance ? [chance] : [])
    return steady + Math.max(0, ...drawn.map(({ low }) => drawn.filter(chance => low >= chance.low && low < chance.high).length))
  }))
}

function withinNotes(kit: Kit, padIndex: number, { lowNote, highNote }: Limits): Finding['mend'] {
  const free = Array.from({ length: highNote - lowNote + 1 }, (_, i) => lowNote + i).find(note => nextFreeNote(kit, note - 1) === note)
  return free === undefined ? undefined : { label: `Move ${padLabel(padIndex)} to the free note ${free}`, edit: now => moveToNote(now, padIndex, free) }
}

/** Draws the layer below a gap up to the one above; a gap at the bottom is closed from above. */
function closeGaps(kit: Kit, padIndex: number): Kit {
  const pad = kit.pads[padIndex]
  if (!pad) return kit
  return coverageOf(pad).gaps.reduce((now, { low, high }) => mapPads(now, [padIndex], one => ({
    ...one,
    layers: one.layers.map((layer) => {
      if (layer.highVelocity === low - 1) return { ...layer, highVelocity: high }
      if (low === 1 && layer.lowVelocity === high + 1) return { ...layer, lowVelocity: 1 }
      return layer
    }),
  })), kit)
}

/** Ends each layer where the next begins. */
function endDoubling(kit: Kit, padIndex: number): Kit {
  return mapPads(kit, [padIndex], (pad) => {
    const starts = [...new Set(pad.layers.map(layer => layer.lowVelocity))].sort((a, b) => a - b)
    return {
      ...pad,
      layers: pad.layers.map((layer) => {
        const next = starts.find(start => start > layer.lowVelocity)
        const highVelocity = next === undefined ? layer.highVelocity : Math.min(layer.highVelocity, next - 1)
        const width = highVelocity - layer.lowVelocity
        return { ...layer, highVelocity, fadeInVelocities: Math.min(layer.fadeInVelocities, width), fadeOutVelocities: Math.min(layer.fadeOutVelocities, width) }
      }),
    }
  })
}
