import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { useLibrary } from './library'
import { usePlayer } from '../sound'

/** The way to a first kit, in its order. */
export const FIRST_STEPS = ['bring in', 'listen', 'tray', 'kit', 'store'] as const
export type FirstStep = typeof FIRST_STEPS[number]

interface Progress {
  /** Shown: to whoever has begun with an empty library, until all is done or it is dismissed. */
  readonly isOn: boolean
  readonly done: readonly FirstStep[]
}

/** How far a newcomer has come on the way to a first kit. Each step is ticked by doing it. */
export const useFirstSteps = defineStore('first-steps', () => {
  const library = useLibrary()
  const player = usePlayer()
  const progress = useLocalStorage<Progress>('emporion-first-steps', { isOn: false, done: [] }, { mergeDefaults: true })

  const isOn = computed(() => progress.value.isOn)
  const isDone = (step: FirstStep) => progress.value.done.includes(step)
  const next = computed(() => FIRST_STEPS.find(step => !isDone(step)))

  function did(step: FirstStep): void {
    if (!isOn.value || isDone(step)) return
    const done = [...progress.value.done, step]
    progress.value = { isOn: done.length < FIRST_STEPS.length, done }
  }

  function dismiss(): void {
    progress.value = { ...progress.value, isOn: false }
  }

  watch(() => library.loaded && library.total === 0 && !library.isFiltered, (isEmpty) => {
    if (isEmpty && progress.value.done.length === 0 && !isOn.value) progress.value = { isOn: true, done: [] }
  }, { immediate: true })
  watch(() => library.total > 0, isAny => isAny && did('bring in'), { immediate: true })
  watch(() => player.atHand?.row, row => row && did('listen'))

  return { isOn, next, isDone, did, dismiss }
})
