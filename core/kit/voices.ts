import { fromDb } from '../audio/level'
import { chosenAlternate, type Envelope, type Filter, type Kit, type Layer, type Pad } from './document'
import { turnKey, turnsOf, type HitCounts } from './turns'

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
  readonly note: number
  readonly chokeGroup: number | null
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
  readonly gated: boolean
}

export interface VoiceDecision {
  readonly starts: readonly VoiceStart[]
  /** Voices to be faded out now, by id. */
  readonly stops: readonly number[]
  /** Layers, by `turnKey`, that this hit is counted for. */
  readonly counted: readonly string[]
}

const NO_HITS: HitCounts = new Map()

/**
 * Decides what a note-on does: of every pad on that note the layers whose velocity range holds the velocity start, of
 * those that take turns the one whose turn it is, of alternates the chosen one. Running voices of the same choke group
 * are cut; where the pad's or the kit's polyphony would be passed, the oldest go. Pads that are muted, or that are not
 * soloed while another is, stay silent and cut nothing.
 * Source for turns, groups and ranges: SFZ v1, `lovel hivel`, `seq_length seq_position`, `group off_by`.
 *
 * @param running oldest first, without voices that are already fading out
 * @param velocity 1 to 127 (a note-on with velocity 0 is a note-off, MIDI 1.0)
 * @param hits how often the layers were hit before
 * @param alternate the value that chooses among alternates, in place of the pads' own
 */
export function noteOn(kit: Kit, running: readonly RunningVoice[], note: number, velocity: number, hits: HitCounts = NO_HITS, alternate?: number): VoiceDecision {
  const isSolo = kit.pads.some(pad => pad.soloed)
  const starts: VoiceStart[] = []
  const counted: string[] = []
  kit.pads.forEach((pad, padIndex) => {
    if (pad.note !== note || pad.muted || (isSolo && !pad.soloed)) return
    for (const layerIndex of layersAt(pad, velocity, alternate)) {
      const layer = pad.layers[layerIndex]!
      if (layer.turn !== null && pad.alternate === null) {
        const key = turnKey(padIndex, layerIndex)
        counted.push(key)
        if ((hits.get(key) ?? 0) % turnsOf(pad, layer) !== layer.turn - 1) continue
      }
      starts.push(startOf(kit, pad, padIndex, layer, layerIndex, velocity))
    }
  })
  const taken = starts.slice(0, kit.polyphony)
  return { starts: taken, stops: cutBy(kit, taken, running), counted }
}

/** The layers of a pad that are meant at a velocity, before turns are taken. */
export function layersAt(pad: Pad, velocity: number, alternate?: number): number[] {
  const chosen = chosenAlternate(pad, alternate)
  if (chosen !== undefined) return pad.layers[chosen] ? [chosen] : []
  return pad.layers.flatMap((layer, index) => velocity >= layer.lowVelocity && velocity <= layer.highVelocity ? [index] : [])
}

function cutBy(kit: Kit, starts: readonly VoiceStart[], running: readonly RunningVoice[]): number[] {
  if (starts.length === 0) return []
  const groups = new Set(starts.map(start => start.chokeGroup).filter(group => group !== null))
  const cut = new Set(running.filter(voice => voice.chokeGroup !== null && groups.has(voice.chokeGroup)))
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
  return [...cut].map(voice => voice.id)
}

/** Decides what a note-off does: gated voices of that note end, one-shots go on. */
export function noteOff(running: readonly RunningVoice[], note: number): number[] {
  return running.filter(voice => voice.gated && voice.note === note).map(voice => voice.id)
}

/**
 * Gain of a velocity: (velocity / 127)^2, so that 127 is full.
 * Source: SFZ v1, `amp_veltrack` at its default of 100 %; General MIDI recommends the same curve.
 */
export function velocityGain(velocity: number): number {
  return (velocity / 127) ** 2
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

function startOf(kit: Kit, pad: Pad, padIndex: number, layer: Layer, layerIndex: number, velocity: number): VoiceStart {
  const fade = pad.alternate === null ? crossfadeGain(layer, velocity) : 1
  const gain = fromDb(kit.gainDb + pad.gainDb + layer.gainDb) * velocityGain(velocity) * fade
  const { left, right } = panGains(pad.pan)
  return {
    padIndex,
    layerIndex,
    soundId: layer.sound.id,
    gainLeft: gain * left,
    gainRight: gain * right,
    pitchRatio: centsToRatio(pad.tuneCents + layer.tuneCents),
    reverse: layer.reverse,
    startFrame: layer.startFrame,
    endFrame: layer.endFrame,
    fadeInFrames: layer.fadeInFrames,
    fadeOutFrames: layer.fadeOutFrames,
    envelope: pad.envelope,
    filter: pad.filter,
    driveDb: pad.driveDb,
    note: pad.note,
    chokeGroup: pad.chokeGroup,
    gated: pad.play === 'gated',
    outputIndex: Math.max(0, kit.outputs.findIndex(output => output.id === pad.output)),
  }
}
