import { tryOnScopeDispose } from '@vueuse/core'
import { ref } from 'vue'
import { useHeld } from '../stores/held'
import { useKit } from '../stores/kit'

const NOTE_OFF = 0x80
const NOTE_ON = 0x90

/** Names of the connected MIDI inputs, and why there are none. */
export const midiInputs = ref<readonly string[]>([])
export const midiState = ref<'off' | 'on' | 'refused' | 'absent'>('off')

/** Plays the kit, or the sounds that are held, from every connected MIDI input: velocity counts, note-on with velocity 0 is a note-off (MIDI 1.0). */
export async function useMidiInput(): Promise<void> {
  const kit = useKit()
  const held = useHeld()
  const play = (note: number, velocity: number) => held.playNote(note, velocity) || kit.playNote(note, velocity)
  if (!('requestMIDIAccess' in navigator)) {
    midiState.value = 'absent'
    return
  }
  const take = (event: MIDIMessageEvent) => {
    const [status = 0, note = 0, velocity = 0] = event.data ?? []
    const command = status & 0xF0
    if (command === NOTE_ON) play(note, velocity)
    else if (command === NOTE_OFF) play(note, 0)
  }
  try {
    const access = await navigator.requestMIDIAccess()
    const listen = () => {
      const inputs = [...access.inputs.values()]
      for (const input of inputs) input.onmidimessage = take
      midiInputs.value = inputs.filter(input => input.state === 'connected').map(input => input.name ?? 'MIDI input')
    }
    access.onstatechange = listen
    listen()
    midiState.value = 'on'
    tryOnScopeDispose(() => {
      access.onstatechange = null
      for (const input of access.inputs.values()) input.onmidimessage = null
    })
  }
  catch {
    midiState.value = 'refused'
  }
}
