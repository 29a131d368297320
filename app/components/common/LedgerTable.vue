<script setup lang="ts" generic="Row">
import { useMutationObserver } from '@vueuse/core'
import type { Column, TableV2Instance } from 'element-plus'

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
}

const NARROWEST = 36
const STEP = 12

interface Place {
  readonly id: number
}

/**
 * Ruled rows of any number with a cursor: a virtualised table. Rows are asked for by index as they come into sight,
 * and may still be on their way.
 */
const props = defineProps<{
  label: string
  columns: readonly LedgerColumn[]
  total: number
  rowAt: (index: number) => Row | undefined
  cursor: number
  isChosen?: (index: number) => boolean
  /** Changes whenever `isChosen` answers otherwise. */
  marks?: unknown
  draggable?: boolean
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
}>()

defineSlots<{ cell: (props: { column: string, row: Row, index: number }) => unknown }>()

const table = useTemplateRef<TableV2Instance>('table')
const wrapper = useTemplateRef<HTMLElement>('wrapper')
const places = shallowRef<Place[]>([])

watch(() => props.total, (total) => {
  places.value = Array.from({ length: total }, (_, id) => ({ id }))
}, { immediate: true })

watch(() => props.cursor, index => table.value?.scrollToRow(index, 'smart'))

const tableColumns = computed<Column<Place>[]>(() => props.columns.map(column => ({
  key: column.key,
  dataKey: column.key,
  title: column.title,
  width: column.width,
  minWidth: column.width,
  flexGrow: column.grows ? 1 : 0,
  flexShrink: column.grows ? 1 : 0,
  align: column.align ?? 'left',
})))

/**
 * Marks the row of the cursor and the chosen ones. Done by hand, since through the table's own properties every move
 * of the cursor would draw all of its cells anew.
 */
function mark(): void {
  // It calls itself a table, which has no place within a grid.
  wrapper.value?.querySelector('[role="table"]')?.setAttribute('role', 'presentation')
  for (const row of wrapper.value?.querySelectorAll<HTMLElement>('[data-index]') ?? []) {
    const index = Number(row.dataset.index)
    const chosen = props.isChosen?.(index) ?? false
    row.classList.toggle('at-hand', index === props.cursor)
    row.classList.toggle('chosen', chosen)
    row.setAttribute('aria-selected', String(chosen || index === props.cursor))
  }
}

watch([() => props.cursor, () => props.marks], mark, { flush: 'post' })
// The table makes and drops rows in its own time.
useMutationObserver(wrapper, mark, { childList: true, subtree: true })

function rowProps({ rowIndex }: { rowIndex: number }): Record<string, unknown> {
  return {
    'draggable': props.draggable ?? false,
    'aria-rowindex': rowIndex + 1,
    'data-index': rowIndex,
    'onDragstart': (event: DragEvent) => emit('dragRow', rowIndex, event),
  }
}

const rowEvents = {
  onClick: ({ rowIndex, event }: { rowIndex: number, event: Event }) => {
    if (event instanceof MouseEvent) emit('press', rowIndex, event)
  },
  onDblclick: ({ rowIndex }: { rowIndex: number }) => emit('open', rowIndex),
}

const columnOf = (key: unknown) => props.columns.find(column => column.key === key)
const sortState = (key: string) => props.sortedBy !== key ? 'none' : props.isDescending ? 'descending' : 'ascending'

/** Makes a column wider or narrower as the pointer goes. */
function startResize(key: string, event: PointerEvent): void {
  const header = (event.target as HTMLElement).closest('[role="columnheader"], .el-table-v2__header-cell')
  const width = header?.getBoundingClientRect().width ?? columnOf(key)?.width ?? NARROWEST
  const move = (now: PointerEvent) => emit('resize', key, Math.max(NARROWEST, Math.round(width + now.clientX - event.clientX)))
  const end = () => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', end)
  }
  window.addEventListener('pointermove', move)
  window.addEventListener('pointerup', end)
  event.preventDefault()
}

/** Sorting by keyboard is the title's own; Alt with an arrow changes the width. */
function titleKey(key: string, event: KeyboardEvent): void {
  const step = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key]
  if (step === undefined || !event.altKey || !props.isResizable) return
  emit('resize', key, Math.max(NARROWEST, (columnOf(key)?.width ?? NARROWEST) + step))
  event.preventDefault()
  event.stopPropagation()
}

let inSight: [number, number] = [0, 0]
watch(() => props.version, () => emit('need', ...inSight))

function onRowsRendered({ rowCacheStart, rowCacheEnd }: { rowCacheStart: number, rowCacheEnd: number }): void {
  inSight = [rowCacheStart, rowCacheEnd]
  emit('need', rowCacheStart, rowCacheEnd)
}

defineExpose({
  focus: () => wrapper.value?.focus(),
  showRow: (index: number) => table.value?.scrollToRow(index, 'smart'),
})
</script>

<template>
  <div ref="wrapper" class="ledger" tabindex="0" role="grid" :aria-label="label" :aria-rowcount="total">
    <el-auto-resizer>
      <template #default="{ height, width }">
        <el-table-v2
          ref="table"
          :columns="tableColumns"
          :data="places"
          :width="width"
          :height="height"
          :row-height="28"
          :header-height="28"
          :cache="4"
          row-key="id"
          :row-props="rowProps"
          :row-event-handlers="rowEvents"
          scrollbar-always-on
          @rows-rendered="onRowsRendered"
        >
          <template #header-cell="{ column }">
            <button v-if="columnOf(column.key)?.isSortable" type="button" class="title" :aria-label="`Sort by ${column.title}, now ${sortState(String(column.key))}`" @click="emit('sort', String(column.key))" @keydown="titleKey(String(column.key), $event)">
              <span class="cut">{{ column.title }}</span><span v-if="sortedBy === column.key" aria-hidden="true">{{ isDescending ? '↓' : '↑' }}</span>
            </button>
            <span v-else class="title cut">{{ column.title }}</span>
            <span v-if="isResizable" class="grip" aria-hidden="true" @pointerdown="startResize(String(column.key), $event)" />
          </template>
          <template #cell="{ column, rowIndex }">
            <slot v-if="rowAt(rowIndex) !== undefined" name="cell" :column="String(column.key)" :row="(rowAt(rowIndex) as Row)" :index="rowIndex" />
            <span v-else class="quiet">…</span>
          </template>
          <template #empty>
            <span />
          </template>
        </el-table-v2>
      </template>
    </el-auto-resizer>
  </div>
</template>

<style scoped>
.ledger { flex: 1; min-height: 0; min-width: 0; contain: layout paint; }
.ledger :deep(.el-table-v2__row-cell), .ledger :deep(.el-table-v2__header-cell) { padding: 0 6px; overflow: hidden; }
.ledger :deep(.el-table-v2__row-cell > *) { min-width: 0; }
.ledger :deep(.el-table-v2__row) { contain: strict; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); cursor: default; }
.ledger :deep(.el-table-v2__header-cell) { font-weight: 400; font-size: 12px; color: var(--quiet); background: var(--paper); }
.ledger :deep(.el-table-v2__header-row) { border-bottom: 1px solid var(--rule); }
.title { flex: 1; display: flex; align-items: center; gap: 3px; min-width: 0; height: 26px; padding: 0; border: 0; background: none; color: inherit; font: inherit; justify-content: inherit; }
button.title { cursor: pointer; }
button.title:hover { color: var(--ink); }
.ledger :deep(.el-table-v2__header-cell.is-align-right) .title { justify-content: flex-end; }
.grip { position: absolute; right: 0; top: 4px; bottom: 4px; width: 7px; cursor: col-resize; border-right: 1px solid var(--rule); }
.ledger :deep(.el-table-v2__header-cell) { position: relative; }
.ledger :deep(.el-table-v2__row.chosen) { background: var(--chosen); }
.ledger :deep(.el-table-v2__row.at-hand) { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
</style>
