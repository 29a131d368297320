<script setup lang="ts">
import { startDrag } from '../parts/useDrag'
import { useFramesWhile } from '../parts/useFramesWhile'
import { useElementSize } from '@vueuse/core'
import { barTicks, lengthTicks, TICKS_PER_QUARTER, type Hit } from '~~/core/groove/document'
import { eraseHits } from '~~/core/groove/edits'
import { placeText } from '~~/core/groove/place'
import { takes } from '../parts/useDropPlace'
import { hitWidth, paintPattern, ROW_HEIGHT } from './usePatternPainter'
import { usePatternActions } from './usePatternActions'
import { usePatternRows, type PatternRowView } from './usePatternRows'
import { onceReleased } from '../parts/useRelease'
import { useThemeColours } from '../parts/useThemeColours'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'

/** The pattern beside the rows of the kit sheet: hits on a grid and between its lines, with a lane of velocities below. */
const kit = useKit()
const grooves = useGrooves()
const settings = useSettings()
const actions = usePatternActions()
const { rows, cursorRow, rowAtHand, goToRow, isAlone, toggle } = usePatternRows()
const colours = useThemeColours()

const surface = useTemplateRef<HTMLElement>('surface')
const scroller = useTemplateRef<HTMLElement>('scroller')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const playhead = useTemplateRef<HTMLElement>('playhead')
const { width, height } = useElementSize(scroller)
const scrollLeft = ref(0)
const scrollTop = ref(0)
/** The rectangle that hits are chosen with, in pixels of the whole surface. */
const box = shallowRef<{ x: number, y: number, toX: number, toY: number }>()
let gestures = 0

const pixelsPerTick = computed(() => settings.groove.pixelsPerQuarter / TICKS_PER_QUARTER)
const length = computed(() => lengthTicks(grooves.pattern))
const surfaceWidth = computed(() => Math.ceil(length.value * pixelsPerTick.value) + 24)
const tickAt = (x: number) => x / pixelsPerTick.value
const snapped = (tick: number, isFree: boolean) => isFree ? Math.round(tick) : Math.floor(tick / grooves.stepTicks + 0.25) * grooves.stepTicks

function paint(): void {
  if (!canvas.value || width.value === 0) return
  paintPattern(canvas.value, {
    width: width.value, height: height.value, scrollLeft: scrollLeft.value, scrollTop: scrollTop.value, pixelsPerTick: pixelsPerTick.value,
    rows: rows.value.map(({ hits, padIndex }) => ({ hits, isHeard: padIndex !== null })),
    metre: grooves.pattern.metre, bars: grooves.pattern.bars, stepTicks: grooves.stepTicks, region: grooves.bars, chosen: grooves.chosen,
    cursor: { row: cursorRow.value, tick: grooves.cursorTick, ticks: grooves.stepTicks }, colours: colours.value,
  })
}

let isPainting = false
/** At most once a frame, however much changes. */
function repaint(): void {
  if (isPainting) return
  isPainting = true
  requestAnimationFrame(() => {
    isPainting = false
    paint()
  })
}
watch([width, height, scrollLeft, scrollTop, pixelsPerTick, rows, cursorRow, colours, () => grooves.pattern, () => grooves.chosen, () => grooves.cursorTick, () => grooves.stepTicks, () => grooves.bars], repaint, { immediate: true, flush: 'post' })

function onScroll(): void {
  scrollLeft.value = scroller.value?.scrollLeft ?? 0
  scrollTop.value = scroller.value?.scrollTop ?? 0
}

/** Keeps the cursor in sight, wherever it is taken by keys. */
watch([cursorRow, () => grooves.cursorTick], () => {
  const view = scroller.value
  if (!view) return
  const [x, y] = [grooves.cursorTick * pixelsPerTick.value, cursorRow.value * ROW_HEIGHT]
  const wide = grooves.stepTicks * pixelsPerTick.value
  if (x < view.scrollLeft) view.scrollLeft = x
  else if (x + wide > view.scrollLeft + width.value) view.scrollLeft = x + wide - width.value
  if (y < view.scrollTop) view.scrollTop = y
  else if (y + ROW_HEIGHT > view.scrollTop + height.value) view.scrollTop = y + ROW_HEIGHT - height.value
})

const showPlayhead = useFramesWhile(() => {
  const head = playhead.value
  const tick = grooves.isRunning ? grooves.tickAt(performance.now()) : null
  if (head) placePlayhead(head, tick)
  return grooves.isRunning
})
onMounted(showPlayhead)
watch(() => grooves.isRunning, showPlayhead)

function placePlayhead(head: HTMLElement, tick: number | null): void {
  head.style.display = tick === null || tick < 0 ? 'none' : ''
  if (tick === null || tick < 0) return
  const x = tick * pixelsPerTick.value
  head.style.transform = `translateX(${x - scrollLeft.value}px)`
  const view = scroller.value
  if (settings.groove.follows && view && (x < view.scrollLeft || x > view.scrollLeft + width.value - 20)) view.scrollLeft = Math.max(0, x - 40)
}

/** The hit under a place, the nearest of those that it is drawn over. */
function hitAt(row: number, x: number): Hit | undefined {
  const wide = hitWidth(grooves.stepTicks * pixelsPerTick.value)
  return rows.value[row]?.hits.filter(({ tick }) => x >= tick * pixelsPerTick.value - 2 && x <= tick * pixelsPerTick.value + wide + 2).at(-1)
}

function placeOf(event: PointerEvent | MouseEvent): { x: number, y: number, row: number } {
  const bounds = scroller.value!.getBoundingClientRect()
  const [x, y] = [event.clientX - bounds.left + scroller.value!.scrollLeft, event.clientY - bounds.top + scroller.value!.scrollTop]
  return { x, y, row: Math.floor(y / ROW_HEIGHT) }
}

function press(event: PointerEvent): void {
  if (event.button !== 0) return
  surface.value?.focus()
  const start = placeOf(event)
  if (start.row >= rows.value.length || start.x > scroller.value!.scrollLeft + scroller.value!.clientWidth) return
  const hit = hitAt(start.row, start.x)
  const tick = snapped(tickAt(start.x), event.altKey)
  if (tick < length.value) grooves.cursorTick = Math.max(0, hit?.tick ?? tick)
  goToRow(start.row)
  const gesture = `pointer ${++gestures}`
  if (hit) return dragHits(event, hit, start, gesture)
  if (event.shiftKey) return dragBox(event, start)
  grooves.chosen = new Set()
  if (tick >= length.value) return
  drawAlong(event, start, tick, gesture)
}

/** Chooses a hit, and moves what is chosen with the pointer. */
function dragHits(event: PointerEvent, hit: Hit, start: { x: number, row: number }, gesture: string): void {
  if (event.ctrlKey || event.metaKey) {
    const next = new Set(grooves.chosen)
    if (!next.delete(hit)) next.add(hit)
    grooves.chosen = next
    return
  }
  if (!grooves.chosen.has(hit)) grooves.chosen = new Set([hit])
  let [ticks, rowsMoved] = [0, 0]
  const move = (moved: PointerEvent) => {
    const now = placeOf(moved)
    const wanted = moved.altKey ? Math.round(tickAt(now.x - start.x)) : Math.round(tickAt(now.x - start.x) / grooves.stepTicks) * grooves.stepTicks
    if (wanted !== ticks) actions.shift(wanted - ticks, gesture)
    ticks = wanted
    const down = now.row - start.row
    if (down !== rowsMoved && rows.value[start.row + down]) {
      actions.shiftRows(down - rowsMoved, gesture)
      rowsMoved = down
    }
  }
  startDrag(event, { move, cancel: () => grooves.takeBack(gesture) })
}

function dragBox(event: PointerEvent, start: { x: number, y: number, row: number }): void {
  const before = grooves.chosen
  const move = (moved: PointerEvent) => {
    const now = placeOf(moved)
    box.value = { x: Math.min(start.x, now.x), y: Math.min(start.y, now.y), toX: Math.max(start.x, now.x), toY: Math.max(start.y, now.y) }
    actions.chooseBox(start.row, Math.max(0, Math.min(rows.value.length - 1, now.row)), tickAt(box.value.x), tickAt(box.value.toX))
  }
  const end = () => box.value = undefined
  startDrag(event, {
    move,
    end,
    cancel: () => {
      end()
      grooves.chosen = before
    },
  })
}

/** Draws a hit, and one on each step that the pointer passes in its row. */
function drawAlong(event: PointerEvent, start: { row: number }, tick: number, gesture: string): void {
  const drawn = new Set([tick])
  actions.draw(start.row, tick, gesture)
  const move = (moved: PointerEvent) => {
    const next = snapped(tickAt(placeOf(moved).x), moved.altKey)
    if (moved.altKey || drawn.has(next) || next < 0 || next >= length.value) return
    drawn.add(next)
    if (!rows.value[start.row]?.hits.some(hit => hit.tick === next)) actions.draw(start.row, next, gesture)
  }
  startDrag(event, { move, cancel: () => grooves.takeBack(gesture) })
}

/** The other button erases. */
function eraseAt(event: MouseEvent): void {
  const { x, row } = placeOf(event)
  const hit = hitAt(row, x)
  if (hit) grooves.edit('Erase a hit', pattern => eraseHits(pattern, grooves.chosen.has(hit) ? grooves.chosen : new Set([hit])))
}

/** Bars that are dragged over are played in a loop; a click alone plays all. */
function pressBars(event: PointerEvent): void {
  if (event.button !== 0) return
  const bar = barTicks(grooves.pattern.metre)
  const barOf = (moved: PointerEvent) => Math.max(0, Math.min(grooves.pattern.bars - 1, Math.floor(tickAt(moved.clientX - scroller.value!.getBoundingClientRect().left + scroller.value!.scrollLeft) / bar)))
  const first = barOf(event)
  const before = grooves.region
  grooves.region = grooves.region && first >= grooves.region.from && first < grooves.region.to && !event.shiftKey ? null : { from: first, to: first + 1 }
  const move = (moved: PointerEvent) => {
    const now = barOf(moved)
    if (now !== first) grooves.region = { from: Math.min(first, now), to: Math.max(first, now) + 1 }
  }
  startDrag(event, { move, cancel: () => grooves.region = before })
}

const barMarks = computed(() => Array.from({ length: grooves.pattern.bars }, (_, i) => ({ number: i + 1, x: i * barTicks(grooves.pattern.metre) * pixelsPerTick.value - scrollLeft.value, isIn: i >= grooves.bars.from && i < grooves.bars.to })).filter(({ x }) => x > -30 && x < width.value))
const labels = computed(() => rows.value.map((row, index) => ({ row, index, y: index * ROW_HEIGHT - scrollTop.value })).filter(({ y }) => y > -ROW_HEIGHT && y < height.value))

function padOf(row: PatternRowView) {
  return row.padIndex === null ? undefined : grooves.joined.pads[row.padIndex]
}
const isOwn = (row: PatternRowView) => row.place !== null && row.place.kitId === kit.id

function pressLabel(index: number, event: PointerEvent): void {
  if (event.button !== 0) return
  surface.value?.focus()
  const row = rows.value[index]!
  goToRow(index, event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'alone')
  if (!isOwn(row) || event.shiftKey || event.ctrlKey) return
  kit.playPad(row.padIndex!, settings.playing.velocity, event.timeStamp)
  onceReleased(up => kit.playPad(row.padIndex!, 0, up.timeStamp))
}

const atCursorText = computed(() => {
  const row = rowAtHand.value
  if (!row) return 'No pad'
  const there = row.hits.find(hit => Math.abs(hit.tick - grooves.cursorTick) < grooves.stepTicks / 2)
  return `${row.label} ${row.name}, ${placeText(grooves.cursorTick, grooves.pattern.metre)}: ${there ? `hit, velocity ${there.velocity}` : 'nothing'}`
})

defineExpose({ focus: () => surface.value?.focus() })
</script>

<template>
  <div ref="surface" class="pattern" tabindex="0" role="group" aria-label="Pattern" aria-describedby="pattern-cursor">
    <div class="corner">
      <span class="quiet figure cut" title="Bar, beat and tick of the cursor">{{ placeText(grooves.cursorTick, grooves.pattern.metre) }}</span>
      <button type="button" class="chip" :class="{ on: isAlone }" :aria-pressed="isAlone" title="Only the rows of the chosen pads" @click="isAlone = !isAlone">
        alone
      </button>
      <button type="button" class="chip" :class="{ on: settings.groove.showsEmpty }" :aria-pressed="settings.groove.showsEmpty" title="Empty pads too" @click="settings.groove = { ...settings.groove, showsEmpty: !settings.groove.showsEmpty }">
        empty
      </button>
    </div>
    <div class="bars" title="Drag over bars to loop them; click the loop to end it" @pointerdown="pressBars">
      <span v-for="bar in barMarks" :key="bar.number" class="bar-mark figure" :class="{ in: bar.isIn && grooves.region }" :style="{ transform: `translateX(${bar.x}px)` }">{{ bar.number }}</span>
    </div>
    <div class="labels">
      <div v-for="{ row, index, y } in labels" :key="row.key" v-bind="isOwn(row) ? takes({ type: 'pad', padIndex: row.padIndex! }) : {}" class="label" :class="{ 'at-hand': index === cursorRow, 'chosen': row.padIndex !== null && isOwn(row) && kit.chosenPads.has(row.padIndex), 'lit': row.padIndex !== null && kit.lit.has(row.padIndex), 'silent': padOf(row)?.muted }" :style="{ transform: `translateY(${y}px)` }" @pointerdown="pressLabel(index, $event)">
        <span class="figure pad" :class="{ look: row.padIndex === null }">{{ row.label }}</span>
        <KindStamp v-if="row.kind" :kind="row.kind" /><span v-else class="no-stamp" />
        <span class="cut name" :class="{ quiet: row.name === 'empty', look: row.padIndex === null }" :title="row.kitName ? `${row.name}, ${row.kitName}` : row.name">{{ row.name }}<span v-if="row.kitName" class="quiet"> · {{ row.kitName }}</span></span>
        <template v-if="row.place?.kitId">
          <button type="button" tabindex="-1" class="state" :class="{ on: padOf(row)?.muted }" :aria-pressed="padOf(row)?.muted" :aria-label="`${padOf(row)?.muted ? 'Unmute' : 'Mute'} ${row.label}`" @pointerdown.stop @click="void toggle(row, 'muted')">
            M
          </button>
          <button type="button" tabindex="-1" class="state" :class="{ on: padOf(row)?.soloed }" :aria-pressed="padOf(row)?.soloed" :aria-label="`${padOf(row)?.soloed ? 'End the solo of' : 'Solo'} ${row.label}`" @pointerdown.stop @click="void toggle(row, 'soloed')">
            S
          </button>
        </template>
      </div>
    </div>
    <div class="field">
      <canvas ref="canvas" class="canvas" :style="{ width: `${width}px`, height: `${height}px` }" aria-hidden="true" />
      <div ref="scroller" class="scroller" @scroll="onScroll" @pointerdown="press" @contextmenu.prevent="eraseAt">
        <div :style="{ width: `${surfaceWidth}px`, height: `${rows.length * ROW_HEIGHT}px` }" class="extent">
          <div v-if="box" class="box" :style="{ left: `${box.x}px`, top: `${box.y}px`, width: `${box.toX - box.x}px`, height: `${box.toY - box.y}px` }" />
        </div>
      </div>
      <div ref="playhead" class="playhead" aria-hidden="true" />
      <div v-if="grooves.joined.pads.every(pad => pad.layers.length === 0)" class="nothing">
        <p>The current kit has no sounds yet.</p>
        <el-button size="small" type="primary" @click="navigateTo('/bench')">
          Make a kit on the Bench
        </el-button>
        <el-button size="small" @click="settings.groovePanel = 'kits'">
          Open another kit
        </el-button>
      </div>
    </div>
    <VelocityLane :pixels-per-tick="pixelsPerTick" :scroll-left="scrollLeft" :width="width" />
    <span id="pattern-cursor" class="visually-hidden" role="status">{{ atCursorText }}</span>
  </div>
</template>

<style scoped>
.pattern { position: relative; display: grid; grid-template: 26px minmax(0, 1fr) 84px / 196px minmax(0, 1fr); flex: 1; min-height: 0; min-width: 0; }
/* The ring lies over all that moves: on a layer of its own, else the whole is painted again with each frame. */
.pattern:focus-visible { outline: none; }
.pattern:focus-visible::after { content: ''; position: absolute; inset: 0; outline: 2px solid var(--accent); outline-offset: -2px; pointer-events: none; will-change: transform; }
.corner { display: flex; align-items: center; gap: 4px; padding: 0 6px; border-right: 1px solid var(--rule); border-bottom: 1px solid var(--rule); }
.corner .figure { flex: 1; }
.chip { height: 24px; padding: 0 5px; border: 1px solid var(--rule); border-radius: 2px; background: none; color: var(--quiet); font-size: 11px; cursor: pointer; }
.chip.on { border-color: var(--accent); color: var(--accent); }
.bars { position: relative; overflow: hidden; border-bottom: 1px solid var(--rule); cursor: ew-resize; touch-action: none; }
.bar-mark { position: absolute; left: 3px; top: 3px; color: var(--quiet); font-size: 11px; pointer-events: none; }
.bar-mark.in { color: var(--accent); font-weight: 600; text-decoration: underline; }
.labels { position: relative; overflow: hidden; border-right: 1px solid var(--rule); }
.label { position: absolute; left: 0; right: 0; display: flex; align-items: center; gap: 5px; height: 28px; padding: 0 4px 0 8px; border-top: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); cursor: default; user-select: none; }
.label.chosen { background: var(--chosen); }
.label.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.pad { width: 28px; flex: none; font-size: 11px; }
.no-stamp { width: 16px; flex: none; }
.name { flex: 1; min-width: 0; }
.lit .pad { color: var(--accent); font-weight: 600; }
.silent .name { opacity: 0.5; }
.state { width: 24px; height: 24px; padding: 0; border: 1px solid transparent; background: none; color: var(--quiet); font: 600 11px var(--figures); cursor: pointer; flex: none; }
.state:hover { border-color: var(--rule); }
.state.on { border-color: var(--look); color: var(--look); }
.field { position: relative; min-width: 0; min-height: 0; overflow: hidden; }
.canvas { position: absolute; left: 0; top: 0; pointer-events: none; }
.scroller { position: absolute; inset: 0; overflow: auto; cursor: crosshair; }
.extent { position: relative; }
.box { position: absolute; border: 1px solid var(--accent); background: color-mix(in srgb, var(--accent) 12%, transparent); pointer-events: none; }
.playhead { position: absolute; left: 0; top: 0; bottom: 0; width: 2px; background: var(--accent); pointer-events: none; will-change: transform; }
.nothing { position: absolute; left: 20px; bottom: 20px; }
.nothing p { margin: 0 0 6px; }
</style>
