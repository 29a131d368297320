import { tryOnScopeDispose } from '@vueuse/core'
import { ref, watch } from 'vue'
import { moveController } from '~~/core/kit/articulationEdits'
import { noteLabel } from '~~/core/audio/notes'
import { setPads } from '~~/core/kit/edits'
import { MOST_OCTAVES, octavesOff, shiftedNote } from '~~/core/kit/octaves'
import { signed } from '~~/core/wording'
import { moveToNote } from '~~/core/kit/noteEdits'
import { padLabel } from '~~/core/kit/padLabel'
import { useHeld } from '../library'
import { useKeyChoices } from '../parts/keys/keys'
import { useKit } from './kit'
import { useSettings, type VelocityCurve } from '../parts/settings'
import { say } from '../parts/useSay'

const NOTE_OFF = 0x80
const NOTE_ON = 0x90
const CONTROLLER = 0xB0
/** Controllers from this number on are channel mode messages (MIDI 1.0). */
const FIRST_MODE = 120
/** Powers that a velocity, 0 to 1, is taken to. */
const POWERS: Readonly<Record<VelocityCurve, number>> = { 'softer': 1.6, 'as played': 1, 'harder': 0.6 }

/** Names of the connected MIDI inputs, and why there are none. */
export const midiInputs = ref<readonly string[]>([])
export const midiState = ref<'off' | 'on' | 'refused' | 'absent'>('off')
/** The pad that takes the next note that comes as its own. */
export const learning = ref<number>()
/** What the next moved controller is assigned to: the alternates of a pad, by its index, or the articulations of the kit. */
export const learningController = ref<number | 'articulations'>()

/** A velocity as a curve lets it be played: 1 stays above silence, 127 stays full. */
export function curved(velocity: number, curve: VelocityCurve): number {
  return velocity === 0 ? 0 : Math.max(1, Math.round(127 * (velocity / 127) ** POWERS[curve]))
}

/** Plays the kit, or the sounds that are held, from the MIDI inputs that are listened to: velocity counts, note-on with velocity 0 is a note-off (MIDI 1.0). */
export async function useMidiInput(): Promise<void> {
  const kit = useKit()
  const held = useHeld()
  const settings = useSettings()
  const keys = useKeyChoices()
  if (!('requestMIDIAccess' in navigator)) {
    midiState.value = 'absent'
    return
  }
  const play = (note: number, velocity: number, at: number) => {
    if (velocity > 0 && learning.value !== undefined) learn(note)
    if (held.playNote(note, velocity)) return
    const shifted = shiftedNote(note, settings.playing.octaves)
    if (shifted === undefined) return
    kit.playNote(shifted, velocity, at)
    if (velocity > 0) hint(shifted)
  }
  let hinted = ''
  /** A keyboard that lies an octave off is silent, and looks as if nothing worked. */
  const hint = (note: number) => {
    // Once for a kit and a shift: a tune on a small kit misses many pads on purpose.
    const asked = `${kit.id} ${settings.playing.octaves}`
    if (hinted === asked) return
    const off = octavesOff(kit.kit, note)
    if (off === undefined) return
    const octaves = settings.playing.octaves + off
    if (Math.abs(octaves) > MOST_OCTAVES) return
    hinted = asked
    say(`No pad plays note ${noteLabel(note, settings.middleC)}. An octave shift of ${signed(octaves)} would reach one: ${keys.labelOf(off > 0 ? 'octaveUp' : 'octaveDown')} on the Bench.`)
  }
  const learn = (note: number) => {
    const pad = learning.value!
    learning.value = undefined
    kit.edit(`Note ${note} for ${padLabel(pad)}`, state => moveToNote(state, pad, note))
    say(`${padLabel(pad)} is played by note ${note}.`)
  }
  const moved = (controller: number, value: number) => {
    const { value: what } = learningController
    learningController.value = undefined
    if (what === 'articulations') kit.edit(`Controller ${controller} for articulations`, state => ({ ...state, articulationController: controller }))
    else if (what !== undefined) kit.edit(`Controller ${controller} for the alternates of ${padLabel(what)}`, state => setPads(state, [what], { alternateController: controller }))
    // Moves of one controller are one undo step.
    if (moveController(kit.kit, controller, value) !== kit.kit) kit.edit(`Move controller ${controller}`, state => moveController(state, controller, value), `controller ${controller}`)
  }
  const take = (event: MIDIMessageEvent) => {
    const [status = 0, note = 0, velocity = 0] = event.data ?? []
    const command = status & 0xF0
    if (command === NOTE_ON) play(note, curved(velocity, settings.playing.curve), event.timeStamp)
    else if (command === NOTE_OFF) play(note, 0, event.timeStamp)
    else if (command === CONTROLLER && note < FIRST_MODE) moved(note, velocity)
  }
  // Said before anything is waited for: afterwards it is no longer known whose it is.
  let isOver = false
  let letGo: (() => void) | undefined
  tryOnScopeDispose(() => {
    isOver = true
    letGo?.()
  })
  try {
    const access = await navigator.requestMIDIAccess()
    if (isOver) return
    const listen = () => {
      const inputs = [...access.inputs.values()].filter(input => input.state === 'connected')
      const { input: wanted } = settings.playing
      const isThere = inputs.some(input => input.name === wanted)
      // A device that is away does not leave the kit without a keyboard.
      for (const input of inputs) input.onmidimessage = !isThere || input.name === wanted ? take : null
      midiInputs.value = [...new Set(inputs.map(input => input.name ?? 'MIDI input'))]
    }
    access.onstatechange = listen
    const stop = watch(() => settings.playing.input, listen, { immediate: true })
    midiState.value = 'on'
    letGo = () => {
      stop()
      access.onstatechange = null
      for (const input of access.inputs.values()) input.onmidimessage = null
    }
  }
  catch {
    midiState.value = 'refused'
  }
}
