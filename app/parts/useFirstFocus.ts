import { nextTick, onMounted, onUnmounted, type ShallowRef } from 'vue'

type Part = Readonly<ShallowRef<{ focus: () => void } | null>>

let current: Part | undefined

/**
 * Gives a view's main part the keyboard when the view opens, unless it is in the tray or in a dialog or menu already: whoever was
 * faster than the view keeps it.
 */
export function useFirstFocus(part: Part): void {
  onMounted(() => {
    current = part
    void nextTick(() => {
      if (!document.activeElement?.closest('aside, .el-overlay, .el-popper')) part.value?.focus()
    })
  })
  onUnmounted(() => {
    if (current === part) current = undefined
  })
}

/** Gives the keyboard back to the main part of the view that is open. */
export function backToView(): void {
  current?.value?.focus()
}
