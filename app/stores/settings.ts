import { useLocalStorage, usePreferredDark } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, watchEffect } from 'vue'
import type { MiddleC } from '~~/core/audio/notes'

/** What this person likes, kept in this browser. */
export const useSettings = defineStore('settings', () => {
  const prefersDark = usePreferredDark()
  const theme = useLocalStorage<'day' | 'lamp' | 'system'>('emporion-theme', 'system')
  const middleC = useLocalStorage<MiddleC>('emporion-middle-c', 'C3')
  const volume = useLocalStorage('emporion-volume', 0.8)
  /** Whether single sounds are heard at one loudness or as they are. */
  const matchLevels = useLocalStorage('emporion-match-levels', true)
  const figuresOpen = useLocalStorage('emporion-figures-open', false)
  const trayOpen = useLocalStorage('emporion-tray-open', true)
  const lamp = computed(() => theme.value === 'lamp' || (theme.value === 'system' && prefersDark.value))
  watchEffect(() => document.documentElement.classList.toggle('dark', lamp.value))
  return { theme, middleC, volume, matchLevels, figuresOpen, trayOpen, lamp }
})
