import { defineStore } from 'pinia'
import { shallowRef } from 'vue'

/** One thing that can be done from a menu. */
export interface MenuItem {
  readonly does: string
  readonly act: () => unknown
  /** The key that does it, as it is printed. */
  readonly key?: string
  readonly disabled?: boolean
  /** A rule stands above it. */
  readonly divided?: boolean
}

interface ShownMenu {
  readonly title: string
  readonly items: readonly MenuItem[]
  /** Where it opens: at the pointer, or below a row. */
  readonly box: DOMRect
}

/** The menu of a row, pad, preset or folder: one at a time in the whole page. */
export const useMenu = defineStore('menu', () => {
  const shown = shallowRef<ShownMenu>()

  /** Opens a menu where the pointer is, or below the row that a key was pressed for. */
  function open(at: Event | Element | null | undefined, title: string, items: readonly MenuItem[]): void {
    const box = at instanceof MouseEvent ? new DOMRect(at.clientX, at.clientY, 0, 0) : at instanceof Element ? at.getBoundingClientRect() : undefined
    if (at instanceof MouseEvent) at.preventDefault()
    if (items.length > 0) shown.value = { title, items, box: box ?? new DOMRect(innerWidth / 2, innerHeight / 2, 0, 0) }
  }

  function close(): void {
    shown.value = undefined
  }

  return { shown, open, close }
})
