<script setup lang="ts" generic="Row">
import { startDrag } from './useDrag'
import { useElementSize } from '@vueuse/core'
import { fitting } from './givingWay'
import { useRowWindow } from './useRowWindow'

/** A column of a ledger: its cells are drawn by the slot `cell`. */
export interface LedgerColumn {
  readonly key: string
  readonly title: string
  readonly width: number
  /** Takes what width is left over. */
  readonly grows?: boolean
  readonly align?: 'left' | 'right' | 'center'
  /** Its title sorts the rows by it. */
  readonly isSortable?: boolean
  /** Where room is short those of the least weight are left out first; without one it stays. */
  readonly weight?: number
}

const NARROWEST = 36
const STEP = 12
const ROW_HEIGHT = 28

/**
 * Ruled rows of any number with a cursor, of which only those in sight are drawn. Rows are asked for by index as they come
 * into sight, and may still be on their way.
 */
const props = defineProps<{
  label: string
  columns: readonly LedgerColumn[]
  total: number
  rowAt: (index: number) => Row | undefined
  cursor: number
  isChosen?: (index: number) => boolean
  draggable?: boolean
  /** Rows above which a rule stands, with what begins there. */
  dividers?: ReadonlyMap<number, string>
  /** Changes whenever all rows are others: those in sight are asked for anew. */
  version?: number
  /** The column that the rows are sorted by. */
  sortedBy?: string
  isDescending?: boolean
  /** Columns can be made wider and narrower. */
  isResizable?: boolean
}>()

const emit = defineEmits<{
  need: [from: number, to: number]
  press: [index: number, event: MouseEvent]
  open: [index: number]
  dragRow: [index: number, event: DragEvent]
  sort: [key: string]
  resize: [key: string, width: number]
  menu: [index: number, event: MouseEvent]
}>()

defineSlots<{ cell: (props: { column: string, row: Row, index: number }) => unknown }>()

const id = useId()
const wrapper = useTemplateRef<HTMLElement>('wrapper')
const { span, most, show } = useRowWindow(wrapper, { total: () => props.total, rowHeight: ROW_HEIGHT, headHeight: ROW_HEIGHT })

const { width: room } = useElementSize(wrapper)
/** What fits; the others come back with the room for them. */
const shown = computed(() => fitting(props.columns, room.value))
const tracks = computed(() => shown.value.map(({ width, grows }) => grows ? `minmax(${width}px, 1fr)` : `${width}px`).join(' '))
const narrowest = computed(() => shown.value.reduce((sum, column) => sum + column.width, 0))
const inSight = computed(() => Array.from({ length: Math.max(0, span.value.last - span.value.first + 1) }, (_, i) => {
  const index = span.value.first + i
  return { index, row: props.rowAt(index) }
}))

watch(() => props.cursor, show)
watch([span, () => props.version], () => {
  if (span.value.last >= span.value.first) emit('need', span.value.first, span.value.last)
}, { immediate: true })

const sortState = (key: string) => props.sortedBy !== key ? 'none' : props.isDescending ? 'descending' : 'ascending'

/** Makes a column wider or narrower as the pointer goes. */
function startResize(key: string, event: PointerEvent): void {
  const width = (event.target as HTMLElement).closest('.title-cell')?.getBoundingClientRect().width ?? NARROWEST
  startDrag(event, { move: (_moved, { x }) => emit('resize', key, Math.max(NARROWEST, Math.round(width + x))), cancel: () => emit('resize', key, Math.round(width)) })
  event.preventDefault()
}

/** Sorting by keyboard is the title's own; Alt with an arrow changes the width. */
function titleKey({ key, width }: LedgerColumn, event: KeyboardEvent): void {
  const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key]
  if (step === undefined || !event.altKey || !props.isResizable) return
  emit('resize', key, Math.max(NARROWEST, width + step))
  event.preventDefault()
  event.stopPropagation()
}

defineExpose({
  focus: () => wrapper.value?.focus({ preventScroll: true }),
  showRow: show,
  /** The element of the cursor's row, where it is in sight. */
  rowElement: () => document.getElementById(`${id}-${props.cursor}`),
})
</script>

<template>
  <div ref="wrapper" class="ledger" tabindex="0" role="grid" :aria-label="label" :aria-rowcount="total + 1" :aria-colcount="shown.length" :aria-multiselectable="isChosen !== undefined" :aria-activedescendant="inSight.some(({ index }) => index === cursor) ? `${id}-${cursor}` : undefined" :style="{ '--tracks': tracks, '--narrowest': `${narrowest}px` }">
    <div class="titles" role="row" aria-rowindex="1">
      <div v-for="(column, i) in shown" :key="column.key" :aria-colindex="i + 1" class="title-cell" role="columnheader" :class="column.align" :aria-sort="column.isSortable ? sortState(column.key) : undefined">
        <button v-if="column.isSortable" type="button" class="title" :aria-label="`Sort by ${column.title}, now ${sortState(column.key)}`" @click="emit('sort', column.key)" @keydown="titleKey(column, $event)">
          <span class="cut">{{ column.title }}</span><span v-if="sortedBy === column.key" aria-hidden="true">{{ isDescending ? '↓' : '↑' }}</span>
        </button>
        <span v-else class="title cut">{{ column.title }}</span>
        <span v-if="isResizable" class="grip" aria-hidden="true" @pointerdown="startResize(column.key, $event)" />
      </div>
    </div>
    <div class="rows" role="rowgroup" :style="{ height: `${total * ROW_HEIGHT}px` }">
      <!-- Rows that leave sight are taken for those that come into it. -->
      <div
        v-for="{ index, row } in inSight"
        :id="`${id}-${index}`"
        :key="index % most"
        class="row"
        role="row"
        :class="{ 'at-hand': index === cursor, 'chosen': isChosen?.(index), 'divided': dividers?.has(index) }"
        :style="{ top: `${index * ROW_HEIGHT}px` }"
        :draggable="draggable ?? false"
        :aria-rowindex="index + 2"
        :aria-selected="isChosen?.(index) || index === cursor"
        @click="emit('press', index, $event)"
        @dblclick="emit('open', index)"
        @dragstart="emit('dragRow', index, $event)"
        @contextmenu="emit('menu', index, $event)"
      >
        <span v-if="dividers?.has(index)" class="divider quiet">{{ dividers.get(index) }}</span>
        <div v-for="(column, i) in shown" :key="column.key" class="cell" role="gridcell" :aria-colindex="i + 1" :class="column.align">
          <slot v-if="row !== undefined" name="cell" :column="column.key" :row="(row as Row)" :index="index" />
          <span v-else class="quiet">…</span>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.ledger { flex: 1; min-height: 0; min-width: 0; height: 100%; overflow: auto; contain: strict; scrollbar-gutter: stable; font-size: 13px; }
.titles, .row { display: grid; grid-template-columns: var(--tracks); min-width: var(--narrowest); height: 28px; }
.titles { position: sticky; top: 0; z-index: 1; border-bottom: 1px solid var(--rule); background: var(--paper); color: var(--quiet); font-size: 12px; box-sizing: border-box; }
/* The titles lie over the ring of the table that has the keys. */
.ledger:focus-visible > .titles { box-shadow: inset 2px 2px 0 var(--accent); }
.title-cell { position: relative; display: flex; align-items: center; min-width: 0; padding: 0 6px; }
.rows { position: relative; min-width: var(--narrowest); contain: layout paint size; }
.row { position: absolute; left: 0; right: 0; contain: strict; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); box-sizing: border-box; cursor: default; }
.row:hover { background: color-mix(in srgb, var(--chosen) 50%, transparent); }
.row.divided { border-top: 2px solid var(--look); }
.divider { position: absolute; top: -1px; right: 8px; padding: 0 6px; background: var(--sheet); font-size: 11px; line-height: 14px; pointer-events: none; }
.row.chosen { background: var(--chosen); }
.row.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.cell { display: flex; align-items: center; min-width: 0; padding: 0 6px; overflow: hidden; }
.cell > :slotted(*) { min-width: 0; }
.right { justify-content: flex-end; text-align: right; }
.center { justify-content: center; }
.title { flex: 1; display: flex; align-items: center; gap: 3px; min-width: 0; height: 26px; padding: 0; border: 0; background: none; color: inherit; font: inherit; justify-content: inherit; }
button.title { cursor: pointer; }
button.title:hover { color: var(--ink); }
.grip { position: absolute; right: 0; top: 4px; bottom: 4px; width: 7px; cursor: col-resize; border-right: 1px solid var(--rule); }
</style>
