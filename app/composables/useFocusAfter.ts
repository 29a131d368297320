import { nextTick, watch } from 'vue'

/** Where the keys go when a part of the view that had them is gone: without it they would be the page's. */
export function useFocusAfter(isThere: () => boolean, focus: () => void): void {
  watch(isThere, async (is) => {
    await nextTick()
    if (!is && (document.activeElement === document.body || document.activeElement === null)) focus()
  }, { flush: 'post' })
}
