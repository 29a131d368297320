<script setup lang="ts">
import { startDrag } from '../../parts/useDrag'
import { refDebounced } from '@vueuse/core'
import { GRID_COLUMNS, GRID_ROWS, GRID_SECONDS } from '~~/core/search/catalogue/bars'
import { partsOf, rangeText } from '~~/core/search/query/edit'
import { whole } from '../../parts/useFormat'
import { mixedColours, useThemeColours } from '../../parts/useThemeColours'
import { useLibrary } from '../library'

const SHADES = 8
const CALM_MS = 150

/** Counts by length and brightness as shading. A click or a drag over cells narrows the search to them; arrows and Enter do the same. */
const props = defineProps<{ grid: readonly (readonly number[])[] }>()
/** The chart takes long to draw: while somebody types it waits until the counts have come to rest. */
const grid = refDebounced(toRef(() => props.grid), CALM_MS)
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'))

interface Cell {
  readonly row: number
  readonly column: number
}

const library = useLibrary()
const colours = useThemeColours()
const box = useTemplateRef('box')
const from = ref<Cell>()
const to = ref<Cell>()
const isDragging = ref(false)

const ENDS = [0, ...GRID_SECONDS]
const columnLabel = (column: number) => column === GRID_COLUMNS - 1 ? `over ${GRID_SECONDS.at(-1)} s` : `${ENDS[column]} to ${GRID_SECONDS[column]} s`
const rowLabel = (row: number) => `brightness ${row * 10} to ${row === GRID_ROWS - 1 ? 100 : row * 10 + 9}`

// Shades go by the root of the counts, so that a few hundred kicks do not turn all else white; 100 is the most there is.
const series = computed(() => {
  const most = Math.max(1, ...grid.value.flat())
  return grid.value.map((counts, row) => ({ name: String(row), data: counts.map((count, column) => ({ x: String(column), y: Math.round(Math.sqrt(count / most) * 100) })) }))
})

const options = computed(() => {
  const { ink, quiet, sheet } = colours.value
  return {
    chart: { type: 'heatmap', toolbar: { show: false }, animations: { enabled: false }, fontFamily: 'Source Code Pro', foreColor: quiet, background: 'transparent', selection: { enabled: false }, zoom: { enabled: false } },
    colors: [ink],
    dataLabels: { enabled: false },
    legend: { show: false },
    stroke: { width: 1, colors: [sheet] },
    plotOptions: { heatmap: { radius: 0, enableShades: false, colorScale: { ranges: shades(sheet, ink) } } },
    grid: { show: false, padding: { left: 0, right: 0, top: -18, bottom: -10 } },
    xaxis: { labels: { show: false }, axisBorder: { show: false }, axisTicks: { show: false }, tooltip: { enabled: false } },
    yaxis: { show: false },
    tooltip: { enabled: false },
    states: { hover: { filter: { type: 'none' } }, active: { filter: { type: 'none' } } },
  }
})

/** From the sheet's colour for nothing to full ink for the most. */
function shades(sheet: string, ink: string) {
  const step = 100 / SHADES
  return [{ from: -1, to: 0, color: sheet }, ...Array.from({ length: SHADES }, (_, i) => ({ from: i * step + 0.5, to: (i + 1) * step + 0.5, color: mixedColours(ink, sheet, (i + 1.5) / (SHADES + 0.5)) }))]
}

const chosen = computed(() => {
  if (isDragging.value && from.value && to.value) return between(from.value, to.value)
  const [seconds] = partsOf(library.read, 'sounds')
  const [bright] = partsOf(library.read, 'bright')
  if (!seconds && !bright) return undefined
  const range = (part: typeof seconds) => part?.query.type === 'number' ? part.query.range : {}
  const [length, light] = [range(seconds), range(bright)]
  const columns = ENDS.flatMap((low, column) => (length.high === undefined || low < length.high - 1e-6) && (length.low === undefined || (GRID_SECONDS[column] ?? Infinity) > length.low + 1e-6) ? [column] : [])
  const rows = Array.from({ length: GRID_ROWS }, (_, row) => row).filter(row => (light.high === undefined || row * 10 <= light.high) && (light.low === undefined || row * 10 + 9.99 >= light.low))
  return columns.length > 0 && rows.length > 0 ? between({ row: rows[0]!, column: columns[0]! }, { row: rows.at(-1)!, column: columns.at(-1)! }) : undefined
})

function between(a: Cell, b: Cell) {
  return { low: { row: Math.min(a.row, b.row), column: Math.min(a.column, b.column) }, high: { row: Math.max(a.row, b.row), column: Math.max(a.column, b.column) } }
}

/** Where the marked cells lie, in parts of the plot. */
const chosenCells = computed(() => {
  const area = chosen.value
  if (!area) return undefined
  return {
    left: `${area.low.column / GRID_COLUMNS * 100}%`, width: `${(area.high.column - area.low.column + 1) / GRID_COLUMNS * 100}%`,
    bottom: `${area.low.row / GRID_ROWS * 100}%`, height: `${(area.high.row - area.low.row + 1) / GRID_ROWS * 100}%`,
  }
})

function cellAt(event: PointerEvent): Cell {
  const { left, bottom, width, height } = box.value!.getBoundingClientRect()
  const within = (part: number, count: number) => Math.max(0, Math.min(count - 1, Math.floor(part * count)))
  return { column: within((event.clientX - left) / width, GRID_COLUMNS), row: within((bottom - event.clientY) / height, GRID_ROWS) }
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  isDragging.value = true
  from.value = to.value = cellAt(event)
  startDrag(event, { move: moved => to.value = cellAt(moved), end: release, cancel: () => isDragging.value = false })
}

function release(): void {
  isDragging.value = false
  if (from.value && to.value) narrow(from.value, to.value)
}

/** Narrows to cells; the same ones again take the conditions away. */
function narrow(a: Cell, b: Cell): void {
  const { low, high } = between(a, b)
  const seconds = rangeText('sounds', low.column === 0 ? undefined : ENDS[low.column], high.column === GRID_COLUMNS - 1 ? undefined : GRID_SECONDS[high.column])
  const bright = rangeText('bright', low.row === 0 ? undefined : low.row * 10, high.row === GRID_ROWS - 1 ? undefined : high.row * 10 + 9)
  const textOf = (field: string) => partsOf(library.read, field).map(part => library.search.q.slice(part.from, part.to))[0]
  const isSame = textOf('sounds') === seconds && textOf('bright') === bright
  library.setCondition('sounds', isSame ? undefined : seconds)
  library.setCondition('bright', isSame ? undefined : bright)
}

const MOVES: Readonly<Record<string, readonly [number, number]>> = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowRight: [0, 1], ArrowLeft: [0, -1] }

function keydown(event: KeyboardEvent): void {
  const move = MOVES[event.key]
  if (move) {
    const now = to.value ?? { row: 0, column: 0 }
    const next = { row: Math.max(0, Math.min(GRID_ROWS - 1, now.row + move[0])), column: Math.max(0, Math.min(GRID_COLUMNS - 1, now.column + move[1])) }
    to.value = next
    if (!event.shiftKey) from.value = next
    isDragging.value = true
  }
  else if (event.key === 'Enter' || event.key === ' ') release()
  else return
  event.preventDefault()
  event.stopPropagation()
}

const summary = computed(() => {
  const area = chosen.value
  if (!area) return 'Length across, brightness up'
  const count = grid.value.reduce((sum, counts, row) => row < area.low.row || row > area.high.row ? sum : sum + counts.reduce((part, value, column) => column < area.low.column || column > area.high.column ? part : part + value, 0), 0)
  if (area.low.row === area.high.row && area.low.column === area.high.column) return `${whole(count)}: ${columnLabel(area.low.column)}, ${rowLabel(area.low.row)}`
  return `${whole(count)} in these cells`
})
</script>

<template>
  <div class="character">
    <Chart type="heatmap" height="158" width="100%" :options="options" :series="series" />
    <div
      ref="box"
      class="plot"
      role="application"
      tabindex="0"
      aria-label="Character grid: arrows move, Shift marks several cells, Enter narrows to them"
      @pointerdown="press"
      @keydown="keydown"
      @blur="isDragging = false"
    >
      <span v-if="chosenCells" class="mark" :style="chosenCells" />
    </div>
    <ol class="seconds figure quiet" aria-hidden="true">
      <li v-for="end in [...GRID_SECONDS, '›']" :key="end">
        {{ end }}
      </li>
    </ol>
    <p class="quiet in-words" aria-live="polite">
      {{ summary }}
    </p>
    <table class="visually-hidden">
      <caption>Sounds by brightness and length</caption>
      <tbody>
        <tr v-for="(counts, row) in grid" :key="row">
          <th>{{ rowLabel(row) }}</th><td v-for="(count, column) in counts" :key="column">
            {{ columnLabel(column) }}: {{ count }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.character { position: relative; margin: 0 -4px; min-height: 190px; }
.plot { position: absolute; left: 0; right: 0; top: 12px; height: 141px; cursor: crosshair; touch-action: none; }
.mark { position: absolute; border: 2px solid var(--accent); pointer-events: none; }
.seconds { display: grid; grid-template-columns: repeat(7, 1fr); margin: 0; padding: 0; list-style: none; font-size: 9px; text-align: center; }
.in-words { margin: 0; font-size: 11px; text-align: right; }
</style>
