import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { place, type PlacingWay } from '~~/core/kit/placing'
import type { SoundRow } from '~~/server/library/search'
import { useKit, toPlace } from './kit'
import { useSettings } from './settings'

/** Putting several sounds on pads: the way, and what it would make of the kit, before anything is changed. */
export const usePlacing = defineStore('placing', () => {
  const kit = useKit()
  const settings = useSettings()
  const isOpen = ref(false)
  const rows = shallowRef<readonly SoundRow[]>([])
  const startNote = ref(0)

  const way = computed<PlacingWay>(() => {
    const { way: chosen, gap } = settings.placing
    switch (chosen) {
      case 'in order':
        return { type: 'in order', startNote: startNote.value, gap }
      case 'low first':
      case 'high first':
        return { type: 'by pitch', startNote: startNote.value, isFalling: chosen === 'high first' }
      case 'velocity layers':
      case 'stack':
        return { type: chosen, padIndex: kit.padIndex }
      default:
        return { type: chosen }
    }
  })
  const preview = computed(() => place(kit.kit, rows.value.map(toPlace), way.value))

  function open(wanted: readonly SoundRow[]): void {
    if (wanted.length === 0) return
    rows.value = wanted
    startNote.value = firstFreeNote()
    isOpen.value = true
  }

  /** The note of the pad at hand, or where that holds a sound, the one above all that are taken. */
  function firstFreeNote(): number {
    if (kit.pad.layers.length === 0) return kit.pad.note
    return Math.min(127, Math.max(...kit.kit.pads.filter(pad => pad.layers.length > 0).map(pad => pad.note)) + 1)
  }

  /** Does what the preview shows. */
  function carryOut(): void {
    kit.takePlacing(preview.value)
    isOpen.value = false
  }

  return { isOpen, rows, startNote, way, preview, open, carryOut }
})
