import { useEventListener } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, shallowReactive, shallowRef } from 'vue'
import type { SoundRow } from '~~/contract/library'
import { loadSound, playTogether, readySound, soundUrl, stopTogether, usePlayer } from '../sound'
import { PAD_CODES } from '../bench'
import { isTyping } from '../parts/useKeys'

/** The first note of the pads, by which a MIDI keyboard plays the sounds that are held. */
const FIRST_NOTE = 36
const KEY_VELOCITY = 100
const HARD_VELOCITY = 127

/** The last sounds that were heard, held under the fingers: each has a key and a note, and they sound together. */
export const useHeld = defineStore('held', () => {
  const player = usePlayer()
  const rows = shallowRef<readonly SoundRow[]>([])
  const lit = shallowReactive(new Set<number>())
  const isOn = computed(() => rows.value.length > 0)

  /** Takes the last sounds under the fingers, or releases all. */
  function toggle(): void {
    if (isOn.value) return letGo()
    player.stop()
    rows.value = player.heard
    for (const row of rows.value) loadSound(soundUrl(row.hash)).catch(() => undefined)
  }

  function letGo(): void {
    rows.value = []
    lit.clear()
    stopTogether()
  }

  function strike(place: number, velocity: number): void {
    const row = rows.value[place]
    if (!row) return
    lit.add(place)
    const ready = readySound(soundUrl(row.hash))
    if (ready) playTogether(place, ready, player.gainOf(row), velocity)
    else loadSound(soundUrl(row.hash)).then(sound => playTogether(place, sound, player.gainOf(row), velocity), () => undefined)
  }

  /** Plays a note from a MIDI keyboard; gives false where nothing is held. */
  function playNote(note: number, velocity: number): boolean {
    if (!isOn.value) return false
    const place = note - FIRST_NOTE
    if (velocity > 0) strike(place, velocity)
    else lit.delete(place)
    return true
  }

  // Before all other keys, since letters mean other things to the view.
  useEventListener(window, 'keydown', (event) => {
    if (!isOn.value || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return
    if (event.key === 'Escape') letGo()
    else {
      const place = PAD_CODES.indexOf(event.code)
      if (place < 0) return
      if (!event.repeat) strike(place, event.shiftKey ? HARD_VELOCITY : KEY_VELOCITY)
    }
    event.preventDefault()
  }, { capture: true })
  useEventListener(window, 'keyup', event => lit.delete(PAD_CODES.indexOf(event.code)))

  return { rows, lit, isOn, toggle, letGo, strike, playNote }
})
