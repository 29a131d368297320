import { useEventListener } from '@vueuse/core'
import { PADS_PER_BANK } from '~~/core/kit/document'
import { shiftedNote } from '~~/core/kit/octaves'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'
import { isTyping } from '../parts/useKeys'

/** Keys of the two lower letter rows by their place, so that they lie the same on every keyboard. */
export const PAD_CODES = [
  'KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK',
  'KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma',
]

const HARD_VELOCITY = 127

/** Plays the pads of the current bank from the computer keyboard: a letter at the velocity that is set, with Shift at 127. */
export function usePadKeys(): void {
  const kit = useKit()
  const settings = useSettings()
  /** The note that each pressed key plays. */
  const held = new Map<string, number>()

  useEventListener(window, 'keydown', (event) => {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
    const place = PAD_CODES.indexOf(event.code)
    if (place < 0) return
    const index = kit.bank * PADS_PER_BANK + place
    event.preventDefault()
    const pad = kit.kit.pads[index]
    const note = pad && shiftedNote(pad.note, settings.playing.octaves)
    if (note === undefined) return
    held.set(event.code, note)
    kit.playNote(note, event.shiftKey ? HARD_VELOCITY : settings.playing.velocity, event.timeStamp)
    const played = kit.kit.pads.findIndex(candidate => candidate.note === note)
    if (played >= 0) kit.select(settings.playing.octaves === 0 ? index : played)
    performance.measure('emporion:key-to-note', { start: event.timeStamp, end: performance.now() })
  })
  const letGo = (code: string, at?: number) => {
    const note = held.get(code)
    held.delete(code)
    if (note !== undefined) kit.playNote(note, 0, at)
  }
  useEventListener(window, 'keyup', event => letGo(event.code, event.timeStamp))
  useEventListener(window, 'blur', () => [...held.keys()].forEach(code => letGo(code)))
  onScopeDispose(() => [...held.keys()].forEach(code => letGo(code)))
}
