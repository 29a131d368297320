<script setup lang="ts">
import { Delete } from '@element-plus/icons-vue'
import { useVirtualList } from '@vueuse/core'
import { padLabel } from '~~/core/kit/padLabel'
import type { TrayItem } from '~~/contract/tray'
import type { SoundRow } from '~~/contract/library'
import { offerSound, soundFileUrl, usePlayer } from '../sound'
import { beginDrag, carriesSounds, droppedSounds, isDragging } from '../parts/dragged'
import { handleCommand } from '../parts/useCommands'
import { counted } from '../parts/useFormat'
import { downloadUrl } from '../parts/useDownload'
import { takes } from '../parts/useDropPlace'
import { backToView } from '../parts/useFirstFocus'
import { saying, say } from '../parts/useSay'
import { useKeyChoices } from '../parts/keys/keys'
import { useKit, usePlacing } from '../bench'
import { useMenu } from '../parts/menu'
import { useSettings } from '../parts/settings'
import { addedWords, useTray } from './tray'

const tray = useTray()
const kit = useKit()
const placing = usePlacing()
const keys = useKeyChoices()
const menu = useMenu()
const player = usePlayer()
const settings = useSettings()
const ROW_HEIGHT = 28
const { list: visible, containerProps, wrapperProps, scrollTo } = useVirtualList(toRef(() => [...tray.items]), { itemHeight: ROW_HEIGHT, overscan: 10 })

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
  placing.send(kit.padIndex, rows)
}

function drag(event: DragEvent, row: SoundRow): void {
  const rows = tray.chosen.has(row.hash) ? tray.chosenRows : [row]
  beginDrag(event, rows.length, Promise.resolve(rows))
  if (rows.length === 1) offerSound(event, row)
}

async function drop(event: DragEvent): Promise<void> {
  await saying(async () => {
    const rows = await droppedSounds(event)
    const added = await tray.add(rows)
    if (rows.length > 0) say(addedWords(added))
  })
}

async function noteOf(item: TrayItem | undefined): Promise<void> {
  if (!item) return
  const { value } = await ElMessageBox.prompt(`For "${item.row.name}", on this tray.`, 'Note', { confirmButtonText: 'Save note', cancelButtonText: 'Cancel', inputValue: item.note }).catch(() => ({ value: undefined }))
  if (value !== undefined) await tray.note(item.row.hash, value.slice(0, 400))
}

function moveRow(step: 1 | -1): void {
  void tray.move(step)
  keepInSight(tray.cursor)
}

const handlers = {
  trayMenu: () => openMenu(document.querySelector('.side .row.at-hand')),
  trayNext: (event: KeyboardEvent) => show(tray.cursor + 1, event.timeStamp),
  trayPrevious: (event: KeyboardEvent) => show(tray.cursor - 1, event.timeStamp),
  trayDown: () => moveRow(1),
  trayUp: () => moveRow(-1),
  trayPlay: (event: KeyboardEvent) => player.toggle(event.timeStamp),
  trayToPad: () => place(tray.chosenRows),
  trayAll: () => place(tray.sounds),
  trayPlacing: () => placing.open(tray.chosen.size > 0 ? tray.chosenRows : tray.sounds),
  trayOff: () => void tray.remove(new Set(tray.chosenRows.map(row => row.hash))),
  trayNote: () => void noteOf(tray.items[tray.cursor]),
  trayBack: backToView,
}

const IN_MENU = ['trayPlay', 'trayToPad', 'trayPlacing', 'trayNote', 'trayDown', 'trayUp', 'trayOff']

function openMenu(at: Event | Element | null): void {
  const row = tray.atCursor
  if (!row) return
  menu.open(at, row.name, [...keys.items(IN_MENU, handlers, { trayToPad: `place on pad ${padLabel(kit.padIndex)}` }), { does: 'Save as a file', act: () => downloadUrl(soundFileUrl(row.hash)), divided: true }])
}

function menuAt(index: number, row: SoundRow, event: MouseEvent): void {
  event.preventDefault()
  if (!tray.chosen.has(row.hash)) tray.moveTo(index)
  openMenu(event)
}

function keydown(event: KeyboardEvent): void {
  if (!handleCommand(event, 'tray', handlers)) return
  event.preventDefault()
  event.stopPropagation()
}

const hints = computed(() => keys.hints(['trayToPad', 'trayAll', 'trayOff', 'trayBack'], { trayToPad: `place on pad ${padLabel(kit.padIndex)}` }))

const focusTray = () => {
  settings.trayOpen = true
  nextTick(() => containerProps.ref.value?.focus())
}
// While sounds are dragged the panel is open, so that there is somewhere to let go of them.
const open = computed(() => settings.trayOpen || isDragging.value)

defineExpose({ focusTray })
</script>

<template>
  <aside v-bind="takes({ type: 'tray' })" class="side" :class="{ folded: !open }" aria-label="Tray and pads" @dragover="carriesSounds($event) && $event.preventDefault()" @drop.prevent="drop">
    <div class="head">
      <button type="button" class="fold" :aria-expanded="open" @click="settings.trayOpen = !settings.trayOpen">
        <span>Tray</span><span v-if="!open || tray.trays.length < 2" class="figure">{{ tray.items.length }}</span>
      </button>
      <Deferred v-if="open">
        <TrayMenu />
      </Deferred>
    </div>
    <template v-if="open">
      <p v-if="tray.kinds.length > 0" class="kinds" aria-label="Kinds on the tray">
        <span v-for="[kind, count] in tray.kinds" :key="kind"><KindStamp :kind="kind === 'none' ? null : kind" /><span class="figure">{{ count }}</span></span>
      </p>
      <div v-bind="containerProps" class="list" :role="tray.items.length > 0 ? 'listbox' : 'group'" tabindex="0" aria-label="Sounds on the tray" @keydown="keydown">
        <div v-bind="wrapperProps" role="presentation">
          <div
            v-for="{ data: item, index } in visible"
            :key="item.row.hash"
            class="row"
            role="option"
            draggable="true"
            :aria-posinset="index + 1"
            :aria-setsize="tray.items.length"
            :aria-selected="index === tray.cursor"
            :class="{ 'at-hand': index === tray.cursor, 'chosen': tray.chosen.has(item.row.hash) }"
            @click="press(index, item.row, $event)"
            @dblclick="place([item.row])"
            @dragstart="drag($event, item.row)"
            @contextmenu="menuAt(index, item.row, $event)"
          >
            <KindStamp :kind="item.row.kind" />
            <span class="cut" :title="item.note ? `${item.row.name}: ${item.note}` : item.row.name">{{ item.row.name }}<span v-if="item.note" class="quiet"> · {{ item.note }}</span></span>
            <span class="remove" aria-hidden="true" :title="`Remove ${item.row.name} from the tray`" @click.stop="tray.remove(new Set([item.row.hash]))"><el-icon><Delete /></el-icon></span>
          </div>
        </div>
        <p v-if="tray.items.length === 0" class="quiet hint">
          Nothing on this tray yet. In the Library press <kbd>Enter</kbd> on a sound, or drag it here.
        </p>
      </div>
      <FootLine class="keys" :hints="hints" />
      <div v-if="tray.items.length > 0" class="actions">
        <el-button size="small" @click="place(tray.chosenRows)">
          Place {{ counted(tray.chosenRows.length, 'sound') }} on pad {{ padLabel(kit.padIndex) }}
        </el-button>
        <el-button size="small" @click="place(tray.sounds)">
          All
        </el-button>
      </div>
      <div class="kit-line">
        <span class="cut" :title="kit.kit.name">{{ kit.kit.name }}</span>
        <span class="figure quiet">{{ kit.filledPads }} of {{ kit.kit.pads.length }}</span>
      </div>
      <Deferred>
        <PadMap />
      </Deferred>
    </template>
  </aside>
</template>

<style scoped>
.side { display: flex; flex-direction: column; width: 248px; border-left: 1px solid var(--rule); min-height: 0; }
.side.folded { width: 34px; }
.head { display: flex; align-items: center; flex: none; min-height: 40px; padding-right: 6px; border-bottom: 1px solid var(--rule); }
.folded .head { padding: 0; }
.fold { display: flex; gap: 8px; align-items: center; height: 39px; flex: none; padding: 0 10px; border: 0; background: none; color: var(--ink); font: inherit; font-weight: 600; cursor: pointer; }
.folded .fold { writing-mode: vertical-rl; height: auto; padding: 12px 8px; gap: 8px; }
.kinds { display: flex; flex-wrap: wrap; gap: 0 10px; margin: 0; padding: 3px 10px; border-bottom: 1px solid var(--rule); }
.kinds span { display: inline-flex; align-items: center; gap: 2px; font-size: 11px; }
.list { flex: 1; min-height: 60px; overflow-y: auto; }
.keys { display: none; }
.list:focus-visible + .keys { display: flex; }
.row { display: flex; align-items: center; gap: 6px; height: var(--row); padding: 0 4px 0 10px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.row .cut { flex: 1; }
.chosen { background: var(--chosen); }
.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.remove { color: var(--quiet); cursor: pointer; padding: 4px; }
.remove:hover { color: var(--lost); }
.hint { padding: 12px; margin: 0; }
.actions { display: flex; gap: 6px; padding: 6px 10px; border-top: 1px solid var(--rule); }
.actions .el-button:first-child { flex: 1; }
.actions .el-button + .el-button { margin-left: 0; }
.kit-line { display: flex; justify-content: space-between; gap: 8px; padding: 6px 10px; border-top: 1px solid var(--rule); font-weight: 600; }
</style>
