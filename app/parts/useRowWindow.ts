import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, ref, watch, type ComputedRef, type Ref } from 'vue'

/** Rows drawn beyond those in sight, above and below, so that a little scrolling uncovers nothing blank. */
const BEYOND = 2

/** Rows from the first to the last, both meant. */
export interface RowSpan {
  readonly first: number
  readonly last: number
}

/** The rows to be drawn where `height` pixels of the list are in sight from `top` on; none where there are no rows. */
export function rowsInSight(top: number, height: number, rowHeight: number, total: number): RowSpan {
  const first = Math.max(0, Math.min(Math.floor(top / rowHeight), total - 1) - BEYOND)
  return { first, last: Math.min(total - 1, Math.floor((top + height) / rowHeight) + BEYOND) }
}

/** How far a list must be scrolled to show a row: as little as will do when it is near, else to its middle. */
export function scrollToShow(row: number, top: number, height: number, rowHeight: number): number {
  const rowTop = row * rowHeight
  if (rowTop >= top && rowTop + rowHeight <= top + height) return top
  if (Math.abs(rowTop - top) > 2 * height) return Math.max(0, rowTop - Math.round((height - rowHeight) / 2))
  return rowTop < top ? rowTop : rowTop + rowHeight - height
}

/**
 * Which rows of a scrolled list of rows of one height are to be drawn. The packages that there are make an object for every row of
 * each new result, which takes longer than a search of 200,000.
 */
export function useRowWindow(scroller: Ref<HTMLElement | null>, options: { total: () => number, rowHeight: number, headHeight: number }): {
  span: ComputedRef<RowSpan>
  /** As many as are ever drawn at once. */
  most: ComputedRef<number>
  show: (row: number) => void
} {
  const { total, rowHeight, headHeight } = options
  const { height: outer } = useElementSize(scroller)
  const height = computed(() => Math.max(0, outer.value - headHeight))
  const top = ref(0)
  useEventListener(scroller, 'scroll', () => {
    top.value = scroller.value?.scrollTop ?? 0
  }, { passive: true })

  const span = computed(() => rowsInSight(top.value, height.value, rowHeight, total()))
  const most = computed(() => Math.ceil(height.value / rowHeight) + 2 * BEYOND + 2)
  let wanted: number | undefined

  function show(row: number): void {
    if (!scroller.value || height.value === 0) {
      wanted = row
      return
    }
    const next = scrollToShow(row, scroller.value.scrollTop, height.value, rowHeight)
    if (next === scroller.value.scrollTop) return
    scroller.value.scrollTop = next
    // The event comes with the next frame; what is to be drawn then is known now.
    top.value = scroller.value.scrollTop
  }

  // What was to be shown before there was any room is shown as soon as there is.
  watch(height, () => {
    if (wanted === undefined || height.value === 0) return
    show(wanted)
    wanted = undefined
  }, { flush: 'post' })

  return { span, most, show }
}
