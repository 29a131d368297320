import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { DroppedKit } from './useDroppedFiles'

/** Files that were dropped in one view and are for another: they wait for it to open. */
export const useDoors = defineStore('doors', () => {
  /** A kit of another sampler, for Fit or the Vault. */
  const kit = shallowRef<DroppedKit>()
  /** MIDI files, for Grooves. */
  const midi = shallowRef<readonly File[]>([])
  /** Kit packages, for the Vault. */
  const packages = shallowRef<readonly File[]>([])

  return { kit, midi, packages }
})
