import { fromDb } from '../audio/level'
import type { Kit, Layer, Pad } from './document'

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
  readonly note: number
  readonly chokeGroup: number | null
  /** Sounds only as long as its note is held. */
  readonly gated: boolean
}

/** A voice that is sounding, as far as the rules need to know it. */
export interface RunningVoice {
  readonly id: number
  readonly note: number
  readonly chokeGroup: number | null
  readonly gated: boolean
}

export interface VoiceDecision {
  readonly starts: readonly VoiceStart[]
  /** Voices to be faded out now, by id. */
  readonly stops: readonly number[]
}

/**
 * Decides what a note-on does: every layer of every pad on that note whose velocity range holds the velocity starts;
 * running voices of the same choke group are cut; if the kit's polyphony would be passed, the oldest go.
 *
 * @param running oldest first, without voices that are already fading out
 * @param velocity 1 to 127 (a note-on with velocity 0 is a note-off, MIDI 1.0)
 */
export function noteOn(kit: Kit, running: readonly RunningVoice[], note: number, velocity: number): VoiceDecision {
  const starts = kit.pads.flatMap((pad, padIndex) => pad.note === note ? startsOf(pad, padIndex, velocity) : [])
  if (starts.length === 0) return { starts, stops: [] }
  const groups = new Set(starts.map(start => start.chokeGroup).filter(group => group !== null))
  const choked = running.filter(voice => voice.chokeGroup !== null && groups.has(voice.chokeGroup))
  const left = running.filter(voice => !choked.includes(voice))
  const excess = Math.max(0, left.length + starts.length - kit.polyphony)
  return {
    starts: starts.slice(0, kit.polyphony),
    stops: [...choked, ...left.slice(0, excess)].map(voice => voice.id),
  }
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

function startsOf(pad: Pad, padIndex: number, velocity: number): VoiceStart[] {
  return pad.layers.flatMap((layer, layerIndex) =>
    velocity >= layer.lowVelocity && velocity <= layer.highVelocity ? [startOf(pad, padIndex, layer, layerIndex, velocity)] : [])
}

function startOf(pad: Pad, padIndex: number, layer: Layer, layerIndex: number, velocity: number): VoiceStart {
  const gain = fromDb(pad.gainDb + layer.gainDb) * velocityGain(velocity)
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
    note: pad.note,
    chokeGroup: pad.chokeGroup,
    gated: pad.play === 'gated',
  }
}
