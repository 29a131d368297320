import { nextTick, watch } from 'vue'

/** Moves the focus when the part of a view that had it disappears; otherwise it falls to the page's body. */
export function useFocusAfter(isThere: () => boolean, focus: () => void): void {
  watch(isThere, async (is) => {
    await nextTick()
    if (!is && (document.activeElement === document.body || document.activeElement === null)) focus()
  }, { flush: 'post' })
}
