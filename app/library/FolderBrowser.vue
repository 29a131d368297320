<script setup lang="ts">
import { addressOf } from '~~/contract/endpoint'
import { folderRoutes, type BrowsedFolder } from '~~/contract/sources'
import { Folder, Headset, Top } from '@element-plus/icons-vue'
import { useEventListener, useVirtualList } from '@vueuse/core'
import { api, toEmporionError } from '../parts/useApi'
import { counted } from '../parts/useFormat'
import { usePlayer } from '../sound'

/** Chooses a folder on this machine, to bring it in or to write into it: by going through them, or by typing a path. */
const path = defineModel<string>({ required: true })
const { isToWrite = false } = defineProps<{ isToWrite?: boolean }>()

const player = usePlayer()
const folder = shallowRef<BrowsedFolder>()
const problem = ref<string>()
const field = useTemplateRef<{ focus: () => void }>('field')
const cursor = ref(0)

const rows = computed(() => [
  ...(folder.value?.parent ? [{ name: '.. (the folder above)', path: folder.value.parent, up: true }] : []),
  ...(folder.value?.folders.map(entry => ({ ...entry, up: false })) ?? []),
])
/** Folders, then the audio files of this one, which are played and not chosen. */
const lines = computed(() => [
  ...rows.value.map(row => ({ ...row, isFile: false })),
  ...(isToWrite ? [] : folder.value?.files.map(file => ({ ...file, up: false, isFile: true })) ?? []),
])

const LINE_HEIGHT = 28
const { list: visible, containerProps, wrapperProps, scrollTo } = useVirtualList(lines, { itemHeight: LINE_HEIGHT, overscan: 8 })

/** Scrolls no further than it takes to see the cursor. */
function showCursor(): void {
  const box = containerProps.ref.value
  if (!box) return
  const top = cursor.value * LINE_HEIGHT
  if (top < box.scrollTop) scrollTo(cursor.value)
  else if (top + LINE_HEIGHT > box.scrollTop + box.clientHeight) box.scrollTop = top + LINE_HEIGHT - box.clientHeight
}

function play(path: string, name: string, pressedAt: number): void {
  void player.play({ url: addressOf(folderRoutes.audio, { query: { path } }), title: name, row: null }, pressedAt)
}

function pressLine(index: number, event: MouseEvent): void {
  cursor.value = index
  const line = lines.value[index]
  if (line?.isFile) play(line.path, line.name, event.timeStamp)
}

let request = 0
let pressed = 0

// Anywhere but in the list of folders: while a dialog opens, the keys may be with it for a moment before they are in the field.
useEventListener(window, 'keydown', (event) => {
  if (event.key !== 'Tab' && !(event.target instanceof Node && containerProps.ref.value?.contains(event.target))) pressed++
}, { capture: true })

/** Shows a folder. The path is left alone if somebody began to type, or something was pasted, while the answer was on its way. */
async function enter(target: string | undefined): Promise<void> {
  const own = ++request
  const [before, was] = [pressed, path.value]
  try {
    const found = await api(folderRoutes.browse, { query: { path: target } })
    if (own !== request) return
    folder.value = found
    if (pressed === before && path.value === was) path.value = found.path
    problem.value = undefined
    cursor.value = 0
  }
  catch (thrown) {
    if (own === request) problem.value = toEmporionError(thrown).message
  }
}

function type(event: Event | KeyboardEvent): void {
  if (event instanceof KeyboardEvent && event.key === 'ArrowDown') {
    event.preventDefault()
    return containerProps.ref.value?.focus()
  }
  if (!(event instanceof KeyboardEvent) || event.key !== 'Enter' || event.ctrlKey || event.metaKey) return
  event.preventDefault()
  event.stopPropagation()
  void enter(path.value)
}

function keydown(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey) return
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0
  const here = lines.value[cursor.value]
  if (step !== 0) {
    cursor.value = Math.max(0, Math.min(lines.value.length - 1, cursor.value + step))
    const line = lines.value[cursor.value]
    if (line?.isFile) play(line.path, line.name, event.timeStamp)
  }
  else if (event.key === ' ' && here?.isFile) player.toggle(event.timeStamp)
  else if ((event.key === 'Enter' || event.key === 'ArrowRight') && here && !here.isFile) void enter(here.path)
  else if (event.key === 'ArrowLeft' && folder.value?.parent) void enter(folder.value.parent)
  else return
  event.preventDefault()
  showCursor()
}

const newName = ref('')

/** Makes a folder in the one that is shown, and goes there. */
async function make(): Promise<void> {
  const name = newName.value.trim()
  if (!folder.value || name === '') return
  try {
    const made = await api(folderRoutes.make, { body: { path: folder.value.path, name } })
    newName.value = ''
    await enter(made.path)
  }
  catch (thrown) {
    problem.value = toEmporionError(thrown).message
  }
}

onMounted(() => enter(path.value || undefined))
onUnmounted(() => isToWrite || player.stop())
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div>
    <el-input ref="field" v-model="path" aria-label="Path of the folder" @keydown="type">
      <template #prepend>
        Path
      </template>
      <template #append>
        <el-button @click="enter(path)">
          Open
        </el-button>
      </template>
    </el-input>
    <p v-if="problem" class="lost problem" role="alert">
      {{ problem }}
    </p>
    <p v-else-if="folder" class="quiet problem">
      {{ counted(folder.folders.length, 'folder') }} and {{ counted(folder.audioFiles, 'audio file') }} directly in here.<template v-if="!isToWrite"> Subfolders are included.</template>{{ ' ' }}
      <template v-for="root in folder.roots" :key="root">
        <a href="#" @click.prevent="enter(root)">{{ root }}</a>{{ ' ' }}
      </template>
    </p>
    <div v-bind="containerProps" class="folders" role="listbox" tabindex="0" :aria-label="isToWrite ? 'Folders' : 'Folders and audio files'" @keydown="keydown">
      <div v-bind="wrapperProps" role="presentation">
        <div v-for="{ data: line, index } in visible" :key="line.path" class="folder" role="option" :aria-selected="index === cursor" :aria-posinset="index + 1" :aria-setsize="lines.length" :class="{ 'at-hand': index === cursor }" @click="pressLine(index, $event)" @dblclick="line.isFile || enter(line.path)">
          <el-icon><Top v-if="line.up" /><Headset v-else-if="line.isFile" /><Folder v-else /></el-icon><span class="cut" :class="{ quiet: line.isFile }">{{ line.name }}</span>
        </div>
      </div>
    </div>
    <el-input v-if="isToWrite" v-model="newName" class="problem" aria-label="Name of a new folder here" placeholder="Name of a new folder" maxlength="200" @keydown.enter.prevent.stop="make">
      <template #append>
        <el-button :disabled="newName.trim() === ''" @click="make">
          Create folder
        </el-button>
      </template>
    </el-input>
    <p class="quiet problem">
      <kbd>↑</kbd> <kbd>↓</kbd> choose{{ isToWrite ? '' : ', play' }} · <kbd>Enter</kbd> open · <kbd>←</kbd> up
    </p>
  </div>
</template>

<style scoped>
.problem { margin: 6px 0; font-size: 12px; }
.folders { height: 240px; overflow-y: auto; border: 1px solid var(--rule); }
.folder { display: flex; align-items: center; gap: 8px; height: var(--row); padding: 0 10px; cursor: default; }
.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
</style>
