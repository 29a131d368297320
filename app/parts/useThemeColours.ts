import { createSharedComposable } from '@vueuse/core'
import { computed, type ComputedRef } from 'vue'
import { useSettings } from './settings'

const NAMES = ['ink', 'quiet', 'rule', 'sheet', 'paper', 'accent', 'look', 'chosen', 'at-hand'] as const
export type ThemeColours = Readonly<Record<typeof NAMES[number], string>>

/**
 * The theme's colours for what can't be styled by CSS; read anew when the theme changes. Shared: to ask for a style makes the
 * page work out all that has changed, which a list of drawings must not do for each.
 */
export const useThemeColours = createSharedComposable((): ComputedRef<ThemeColours> => {
  const settings = useSettings()
  return computed(() => {
    const style = settings.lamp === undefined ? undefined : getComputedStyle(document.documentElement)
    return Object.fromEntries(NAMES.map(name => [name, style?.getPropertyValue(`--${name}`).trim() ?? ''])) as ThemeColours
  })
})

/** Two colours of the form #RRGGBB mixed: so much of the first. */
export function mixedColours(a: string, b: string, part: number): string {
  const channel = (colour: string, i: number) => Number.parseInt(colour.slice(1 + i * 2, 3 + i * 2), 16)
  return `#${[0, 1, 2].map(i => Math.round(channel(a, i) * part + channel(b, i) * (1 - part)).toString(16).padStart(2, '0')).join('')}`
}
