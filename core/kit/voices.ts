import { fromDb } from '../audio/level'
import { firstInForce, isInForce, type InForce } from './articulations'
import { chosenAlternate, type Envelope, type Filter, type Kit, type Layer, type NoteRange, type Pad } from './document'
import { turnKey, turnsOf, type HitCounts } from './turns'
import { velocityLevel } from './velocity'

/** One layer that is to begin sounding. Frames are in the sound's own rate. */
export interface VoiceStart {
  readonly padIndex: number
  readonly layerIndex: number
  readonly soundId: string
  readonly gainLeft: number
  readonly gainRight: number
  /** Speed of playing: 2 is an octave up. */
  readonly pitchRatio: number
  readonly reverse: boolean
  readonly startFrame: number
  readonly endFrame: number
  readonly fadeInFrames: number
  readonly fadeOutFrames: number
  readonly envelope: Envelope
  readonly filter: Filter | null
  readonly driveDb: number
  /** The note that was played. */
  readonly note: number
  readonly chokeGroup: number | null
  /** Groups whose hits cut it off. */
  readonly chokedBy: readonly number[]
  /** Time over which they do; 0: at once, without a click. */
  readonly chokeSeconds: number
  /** Sounds only as long as its note is held. */
  readonly gated: boolean
  /** Place of its output among those of the kit. */
  readonly outputIndex: number
}

/** A voice that is sounding, as far as the rules need to know it. */
export interface RunningVoice {
  readonly id: number
  readonly padIndex: number
  readonly note: number
  readonly chokeGroup: number | null
  readonly chokedBy: readonly number[]
  readonly gated: boolean
}

/** What a hit depends on beside its note and velocity. */
export interface HitState {
  /** How often the layers were hit before. */
  readonly hits?: HitCounts
  /** The value that chooses among alternates, in place of the pads' own. */
  readonly alternate?: number
  /** Drawn for this hit, from 0 to below 1, for layers that sound by chance. */
  readonly chance?: number
  /** The articulations in force; those that the kit begins with where it is left out. */
  readonly inForce?: InForce
}

export interface VoiceDecision {
  readonly starts: readonly VoiceStart[]
  /** Voices that a group cuts off, each over its own time, by id. */
  readonly chokes: readonly number[]
  /** Voices that give way to others, to be faded out at once, by id. */
  readonly stops: readonly number[]
  /** Layers, by `turnKey`, that this hit is counted for. */
  readonly counted: readonly string[]
}

const NO_HITS: HitCounts = new Map()
const NO_GROUPS: readonly number[] = []

/**
 * Decides what a note-on does: of every pad that sounds on that note, in the articulation in force, the layers start whose
 * velocities, notes and chance hold it, of those that take turns the one whose turn it is, of alternates the chosen one. Running
 * voices are cut by the groups that they name; where the pad's, the group's or the kit's polyphony would be passed, the oldest go.
 * Pads that are muted, or that are not soloed while another is, stay silent and cut nothing.
 * Source for turns, chance, groups and ranges: SFZ v1, `lovel hivel`, `lokey hikey`, `seq_length seq_position`, `lorand hirand`,
 * `group off_by`, `sw_last`.
 *
 * @param running oldest first, without voices that are already fading out
 * @param velocity 1 to 127 (a note-on with velocity 0 is a note-off, MIDI 1.0)
 */
export function noteOn(kit: Kit, running: readonly RunningVoice[], note: number, velocity: number, state: HitState = {}): VoiceDecision {
  const { hits = NO_HITS, alternate, chance = 0 } = state
  const isSolo = kit.pads.some(pad => pad.soloed)
  const inForce = kit.articulations.length > 0 ? state.inForce ?? firstInForce(kit) : undefined
  const starts: VoiceStart[] = []
  const counted: string[] = []
  kit.pads.forEach((pad, padIndex) => {
    if (!soundsOn(pad, note) || pad.muted || (isSolo && !pad.soloed) || (inForce && !isInForce(inForce, pad.articulation))) return
    for (const layerIndex of layersAt(pad, velocity, alternate, note)) {
      const layer = pad.layers[layerIndex]!
      if (layer.chance && (chance < layer.chance.low || chance >= layer.chance.high)) continue
      if (layer.turn !== null && pad.alternate === null) {
        const key = turnKey(padIndex, layerIndex)
        counted.push(key)
        if ((hits.get(key) ?? 0) % turnsOf(pad, layer) !== layer.turn - 1) continue
      }
      starts.push(startOf(kit, pad, padIndex, layer, layerIndex, note, velocity))
    }
  })
  const taken = starts.slice(0, kit.polyphony)
  return { starts: taken, ...cutBy(kit, taken, running), counted }
}

/** Whether a pad sounds on a note. */
export function soundsOn({ note: own, range }: Pick<Pad, 'note' | 'range'>, note: number): boolean {
  return range ? note >= range.low && note <= range.high : note === own
}

/** The layers of a pad that are meant at a velocity, and on a note where it has several, before turns are taken. */
export function layersAt(pad: Pad, velocity: number, alternate?: number, note = pad.note): number[] {
  const chosen = chosenAlternate(pad, alternate)
  if (chosen !== undefined) return pad.layers[chosen] ? [chosen] : []
  return pad.layers.flatMap((layer, index) => velocity >= layer.lowVelocity && velocity <= layer.highVelocity && isWithin(layer.notes, note) ? [index] : [])
}

function isWithin(notes: NoteRange | null, note: number): boolean {
  return notes === null || (note >= notes.low && note <= notes.high)
}

function cutBy(kit: Kit, starts: readonly VoiceStart[], running: readonly RunningVoice[]): Pick<VoiceDecision, 'chokes' | 'stops'> {
  if (starts.length === 0) return { chokes: [], stops: [] }
  const groups = new Set(starts.map(start => start.chokeGroup).filter(group => group !== null))
  const choked = groups.size === 0 ? [] : running.filter(voice => voice.chokedBy.some(group => groups.has(group)))
  const cut = new Set(choked)
  for (const { group, voices } of kit.groupPolyphony) {
    const coming = starts.filter(start => start.chokeGroup === group).length
    if (coming === 0) continue
    const own = running.filter(voice => voice.chokeGroup === group && !cut.has(voice))
    for (const voice of own.slice(0, Math.max(0, own.length - Math.max(0, voices - coming)))) cut.add(voice)
  }
  for (const padIndex of new Set(starts.map(start => start.padIndex))) {
    const { polyphony } = kit.pads[padIndex]!
    if (polyphony === null) continue
    const own = running.filter(voice => voice.padIndex === padIndex && !cut.has(voice))
    // A stack is one hit: its layers start together, however few voices the pad has.
    const room = Math.max(0, polyphony - starts.filter(start => start.padIndex === padIndex).length)
    for (const voice of own.slice(0, Math.max(0, own.length - room))) cut.add(voice)
  }
  const left = running.filter(voice => !cut.has(voice))
  for (const voice of left.slice(0, Math.max(0, left.length + starts.length - kit.polyphony))) cut.add(voice)
  return { chokes: choked.map(voice => voice.id), stops: [...cut].slice(choked.length).map(voice => voice.id) }
}

/** Decides what a note-off does: gated voices of that note end, one-shots go on. */
export function noteOff(running: readonly RunningVoice[], note: number): number[] {
  return running.filter(voice => voice.gated && voice.note === note).map(voice => voice.id)
}

/**
 * Equal-power pan, set so that a centred pad plays its sound at the sound's own level: each side has
 * sqrt(2) times the sine or cosine, +3 dB at a hard side over the centre.
 *
 * @param pan -1 left to 1 right
 */
export function panGains(pan: number): { left: number, right: number } {
  if (pan === 0) return { left: 1, right: 1 }
  const angle = (pan + 1) * Math.PI / 4
  return { left: Math.SQRT2 * Math.cos(angle), right: Math.SQRT2 * Math.sin(angle) }
}

/** Ratio of frequencies for a number of cents. */
export function centsToRatio(cents: number): number {
  return 2 ** (cents / 1200)
}

/**
 * What a velocity leaves of a layer that comes in and goes over some velocities: with equal power, so that two layers
 * which overlap over as many as they fade are as loud together as each alone. Source: SFZ v1, `xfin_lovel` and its kin at
 * `xf_velcurve=power`.
 */
export function crossfadeGain(layer: Layer, velocity: number): number {
  const comingIn = (velocity - layer.lowVelocity + 1) / (layer.fadeInVelocities + 1)
  const going = (layer.highVelocity - velocity + 1) / (layer.fadeOutVelocities + 1)
  return Math.sqrt(Math.min(1, comingIn) * Math.min(1, going))
}

/** What a layer has for itself, and what it takes from its pad. */
export function settingsOf(pad: Pad, layer: Layer): { readonly pan: number, readonly envelope: Envelope, readonly filter: Filter | null } {
  return { pan: layer.pan ?? pad.pan, envelope: layer.envelope ?? pad.envelope, filter: layer.filter ?? pad.filter }
}

/** Cents by which a note lies off the pitch of a layer: none on a pad of one note. */
export function trackedCents(pad: Pad, layer: Layer, note: number): number {
  const notes = layer.notes ?? pad.range
  return notes === null ? 0 : (note - notes.root) * notes.trackCents
}

function startOf(kit: Kit, pad: Pad, padIndex: number, layer: Layer, layerIndex: number, note: number, velocity: number): VoiceStart {
  const { pan, envelope, filter } = settingsOf(pad, layer)
  const fade = pad.alternate === null ? crossfadeGain(layer, velocity) : 1
  const gain = fromDb(kit.gainDb + pad.gainDb + layer.gainDb) * velocityLevel(pad, velocity) * fade
  const { left, right } = panGains(pan)
  return {
    padIndex,
    layerIndex,
    soundId: layer.sound.id,
    gainLeft: gain * left,
    gainRight: gain * right,
    pitchRatio: centsToRatio(pad.tuneCents + layer.tuneCents + trackedCents(pad, layer, note)),
    reverse: layer.reverse,
    startFrame: layer.startFrame,
    endFrame: layer.endFrame,
    fadeInFrames: layer.fadeInFrames,
    fadeOutFrames: layer.fadeOutFrames,
    envelope,
    filter,
    driveDb: pad.driveDb,
    note,
    chokeGroup: pad.chokeGroup,
    chokedBy: pad.chokedBy ?? (pad.chokeGroup === null ? NO_GROUPS : [pad.chokeGroup]),
    chokeSeconds: pad.chokeSeconds,
    gated: pad.play === 'gated',
    outputIndex: Math.max(0, kit.outputs.findIndex(output => output.id === pad.output)),
  }
}
