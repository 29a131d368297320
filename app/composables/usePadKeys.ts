import { useEventListener } from '@vueuse/core'
import { PADS_PER_BANK } from '~~/core/kit/document'
import { useKit } from '../stores/kit'
import { useSettings } from '../stores/settings'
import { isTyping } from './useKeys'

/** Keys of the two lower letter rows by their place, so that they lie the same on every keyboard. */
export const PAD_CODES = [
  'KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK',
  'KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma',
]
export const PAD_LETTERS = ['A', 'S', 'D', 'F', 'G', 'H', 'J', 'K', 'Z', 'X', 'C', 'V', 'B', 'N', 'M', ',']

const HARD_VELOCITY = 127

/** Plays the pads of the bank at hand from the computer keyboard: a letter at the velocity that is set, with Shift at 127. */
export function usePadKeys(): void {
  const kit = useKit()
  const settings = useSettings()
  const held = new Map<string, number>()

  useEventListener(window, 'keydown', (event) => {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
    const place = PAD_CODES.indexOf(event.code)
    if (place < 0) return
    const index = kit.bank * PADS_PER_BANK + place
    event.preventDefault()
    held.set(event.code, index)
    kit.playPad(index, event.shiftKey ? HARD_VELOCITY : settings.playing.velocity, event.timeStamp)
    kit.select(index)
    performance.measure('emporion:key-to-note', { start: event.timeStamp, end: performance.now() })
  })
  const letGo = (code: string, at?: number) => {
    const index = held.get(code)
    held.delete(code)
    if (index !== undefined) kit.playPad(index, 0, at)
  }
  useEventListener(window, 'keyup', event => letGo(event.code, event.timeStamp))
  useEventListener(window, 'blur', () => [...held.keys()].forEach(code => letGo(code)))
  onScopeDispose(() => [...held.keys()].forEach(code => letGo(code)))
}
