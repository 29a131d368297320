<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import { useVirtualList } from '@vueuse/core'
import { padLabel } from '~~/core/formats/sfz/write'
import { beginDrag, carriesSounds, droppedSounds, isDragging } from '../../audio/dragged'
import { counted } from '../../composables/useFormat'
import { backToView } from '../../composables/useFirstFocus'
import { saying, say } from '../../composables/useSay'
import { useKit } from '../../stores/kit'
import { usePlayer } from '../../stores/player'
import { useSettings } from '../../stores/settings'
import { useTray } from '../../stores/tray'
import type { SoundRow } from '~~/server/library/search'

const tray = useTray()
const kit = useKit()
const player = usePlayer()
const settings = useSettings()
const ROW_HEIGHT = 28
const { list: visible, containerProps, wrapperProps, scrollTo } = useVirtualList(toRef(() => [...tray.sounds]), { itemHeight: ROW_HEIGHT, overscan: 10 })

function show(index: number, pressedAt?: number): void {
  tray.moveTo(index)
  if (tray.atCursor) void player.playRow(tray.atCursor, pressedAt)
  keepInSight(tray.cursor)
}

/** Scrolls no further than it takes to see a row. */
function keepInSight(index: number): void {
  const box = containerProps.ref.value
  if (!box) return
  const top = index * ROW_HEIGHT
  if (top < box.scrollTop) scrollTo(index)
  else if (top + ROW_HEIGHT > box.scrollTop + box.clientHeight) box.scrollTop = top + ROW_HEIGHT - box.clientHeight
}

function press(index: number, row: SoundRow, event: MouseEvent): void {
  if (event.ctrlKey || event.metaKey) tray.toggle(row.hash)
  else show(index, event.timeStamp)
}

function place(rows: readonly SoundRow[]): void {
  kit.place(kit.padIndex, rows)
}

function drag(event: DragEvent, row: SoundRow): void {
  const rows = tray.chosen.has(row.hash) ? tray.chosenRows : [row]
  beginDrag(event, rows.length, Promise.resolve(rows))
}

async function drop(event: DragEvent): Promise<void> {
  await saying(async () => {
    const rows = await droppedSounds(event)
    const added = await tray.add(rows)
    if (rows.length > 0) say(`${counted(added, 'sound')} put on the tray.`)
  })
}

function keydown(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || !handle(event)) return
  event.preventDefault()
  event.stopPropagation()
}

function handle(event: KeyboardEvent): boolean {
  switch (event.key) {
    case 'ArrowDown':
      show(tray.cursor + 1, event.timeStamp)
      return true
    case 'ArrowUp':
      show(tray.cursor - 1, event.timeStamp)
      return true
    case ' ':
      player.again(event.timeStamp)
      return true
    case 'Enter':
      place(event.shiftKey ? tray.sounds : tray.chosenRows)
      return true
    case 'Escape':
      backToView()
      return true
    case 'Delete':
      void tray.remove(new Set(tray.chosenRows.map(row => row.hash)))
      return true
    default:
      return false
  }
}

const focusTray = () => {
  settings.trayOpen = true
  nextTick(() => containerProps.ref.value?.focus())
}
// While sounds are dragged the panel is open, so that there is somewhere to let go of them.
const open = computed(() => settings.trayOpen || isDragging.value)

defineExpose({ focusTray })
</script>

<template>
  <aside class="side" :class="{ folded: !open }" aria-label="Tray and pads" @dragover="carriesSounds($event) && $event.preventDefault()" @drop.prevent="drop">
    <button type="button" class="fold" :aria-expanded="open" @click="settings.trayOpen = !settings.trayOpen">
      <span>Tray</span><span class="figure">{{ tray.sounds.length }}</span>
    </button>
    <template v-if="open">
      <div v-bind="containerProps" class="list" role="listbox" tabindex="0" aria-label="Sounds on the tray" @keydown="keydown">
        <div v-bind="wrapperProps" role="presentation">
          <div
            v-for="{ data: row, index } in visible"
            :key="row.hash"
            class="row"
            role="option"
            draggable="true"
            :aria-posinset="index + 1"
            :aria-setsize="tray.sounds.length"
            :aria-selected="index === tray.cursor"
            :class="{ 'at-hand': index === tray.cursor, 'chosen': tray.chosen.has(row.hash) }"
            @click="press(index, row, $event)"
            @dblclick="place([row])"
            @dragstart="drag($event, row)"
          >
            <KindStamp :kind="row.kind" />
            <span class="cut" :title="row.name">{{ row.name }}</span>
            <button type="button" class="drop" tabindex="-1" :aria-label="`Take ${row.name} off the tray`" @click.stop="tray.remove(new Set([row.hash]))">
              <el-icon><Delete /></el-icon>
            </button>
          </div>
        </div>
        <p v-if="tray.sounds.length === 0" class="quiet hint">
          Nothing on the tray yet. In the Library press <kbd>Enter</kbd> on a sound, or drag it here.
        </p>
      </div>
      <p class="keys quiet">
        <kbd>Enter</kbd> to pad {{ padLabel(kit.padIndex) }} · <kbd>Shift Enter</kbd> all · <kbd>Del</kbd> off the tray · <kbd>Esc</kbd> back
      </p>
      <div v-if="tray.sounds.length > 0" class="actions">
        <el-button size="small" @click="place(tray.chosenRows)">
          Put {{ counted(tray.chosenRows.length, 'sound') }} on pad {{ padLabel(kit.padIndex) }}
        </el-button>
        <el-button size="small" @click="place(tray.sounds)">
          All
        </el-button>
      </div>
      <div class="kit-line">
        <span class="cut" :title="kit.kit.name">{{ kit.kit.name }}</span>
        <span class="figure quiet">{{ kit.filledPads }} of {{ kit.kit.pads.length }}</span>
      </div>
      <PadMap />
    </template>
  </aside>
</template>

<style scoped>
.side { display: flex; flex-direction: column; width: 248px; border-left: 1px solid var(--rule); min-height: 0; }
.side.folded { width: 34px; }
.fold { display: flex; justify-content: space-between; align-items: center; height: 40px; flex: none; padding: 0 10px; border: 0; border-bottom: 1px solid var(--rule); background: none; color: var(--ink); font: inherit; font-weight: 600; cursor: pointer; }
.folded .fold { writing-mode: vertical-rl; height: auto; padding: 12px 8px; gap: 8px; }
.list { flex: 1; min-height: 60px; overflow-y: auto; }
.keys { display: none; margin: 0; padding: 4px 10px; border-top: 1px solid var(--rule); font-size: 11px; line-height: 1.7; }
.list:focus-visible + .keys { display: block; }
.row { display: flex; align-items: center; gap: 6px; height: var(--row); padding: 0 4px 0 10px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.row .cut { flex: 1; }
.chosen { background: var(--chosen); }
.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.drop { border: 0; background: none; color: var(--quiet); cursor: pointer; padding: 4px; }
.drop:hover { color: var(--lost); }
.hint { padding: 12px; margin: 0; }
.actions { display: flex; gap: 6px; padding: 6px 10px; border-top: 1px solid var(--rule); }
.actions .el-button:first-child { flex: 1; }
.actions .el-button + .el-button { margin-left: 0; }
.kit-line { display: flex; justify-content: space-between; gap: 8px; padding: 6px 10px; border-top: 1px solid var(--rule); font-weight: 600; }
</style>
