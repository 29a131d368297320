import { nextTick, onMounted, type ShallowRef } from 'vue'

/**
 * Gives a view's main part the keyboard when the view opens, unless it is in the tray already: whoever was faster
 * than the view keeps it.
 */
export function useFirstFocus(part: Readonly<ShallowRef<{ focus: () => void } | null>>): void {
  onMounted(() => nextTick(() => {
    if (!document.activeElement?.closest('aside')) part.value?.focus()
  }))
}
