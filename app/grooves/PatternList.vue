<script setup lang="ts">
import { patternRoutes } from '~~/contract/patterns'
import { addressOf } from '~~/contract/endpoint'
import { StarFilled } from '@element-plus/icons-vue'
import { holdsWords } from '~~/core/search/holdsWords'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import { offerFile } from '../sound'
import { downloadUrl } from '../parts/useDownload'
import { counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useGrooves } from './grooves'
import { useMenu } from '../parts/menu'
import { usePatterns } from './patterns'
import { useSettings } from '../parts/settings'

/** The patterns: found by words, folder and favourites; stepping through them takes each to hand. */
const patterns = usePatterns()
const grooves = useGrooves()
const settings = useSettings()
const menu = useMenu()
const words = ref('')
const ALL = '*'
const folder = ref(ALL)
const favouritesOnly = ref(false)
const cursor = ref(0)
const COLUMNS: readonly LedgerColumn[] = [
  { key: 'name', title: 'Pattern', width: 110, grows: true },
  { key: 'metre', title: 'Metre', width: 46 },
  { key: 'tempo', title: 'BPM', width: 44, align: 'right' },
  { key: 'hits', title: 'A bar', width: 44, align: 'right' },
]

const folders = computed(() => [...new Set(patterns.rows.map(row => row.folder))].sort())
const found = computed(() => {
  return patterns.rows.filter((row) => {
    if (folder.value !== ALL && row.folder !== folder.value) return false
    if (favouritesOnly.value && !row.favourite) return false
    return holdsWords([row.name, row.folder, ...row.tags, ...row.kinds, `${row.metre.beats}/${row.metre.unit}`, row.swing.percent > 50 ? 'swung' : 'straight', ...row.usedIn].join(' '), words.value)
  })
})
const atCursor = computed(() => found.value[cursor.value])
const rowAt = (index: number) => found.value[index]

watch([found, () => grooves.id], () => {
  const here = found.value.findIndex(row => row.id === grooves.id)
  if (here >= 0) cursor.value = here
  else cursor.value = Math.min(cursor.value, Math.max(0, found.value.length - 1))
}, { immediate: true })
const ledger = useTemplateRef<{ showRow: (index: number) => void, rowElement: () => HTMLElement | null }>('ledger')
onMounted(async () => {
  await saying(patterns.load)
  await nextTick()
  // The current one is in sight from the beginning.
  ledger.value?.showRow(cursor.value)
})

let request = 0
async function goTo(index: number): Promise<void> {
  const row = found.value[Math.max(0, Math.min(found.value.length - 1, index))]
  if (!row) return
  cursor.value = found.value.indexOf(row)
  const own = ++request
  // Who runs through the list hears only where they stop.
  await new Promise(resolve => setTimeout(resolve, 60))
  if (own !== request) return
  await saying(async () => {
    await grooves.open(row.id)
    if (!grooves.isRunning) await grooves.play()
  })
}

const midiUrl = (id: string) => addressOf(patternRoutes.midi, { params: { id } })

function dragOut(index: number, event: DragEvent): void {
  const row = found.value[index]
  if (row) offerFile(event, midiUrl(row.id), `${row.name}.mid`, 'audio/midi')
}

function openMenu(at: Event | Element | null | undefined): void {
  const row = atCursor.value
  if (!row) return
  menu.open(at, row.name, [
    { does: 'Open and play', act: () => goTo(cursor.value) },
    { does: row.favourite ? 'Remove from favourites' : 'Add to favourites', act: () => star(row) },
    { does: 'Folder and tags…', act: setFolder },
    { does: 'Save as a MIDI file', act: () => downloadUrl(midiUrl(row.id)), divided: true },
    { does: 'Delete…', key: 'Del', act: remove, disabled: row.isShipped },
  ])
}

function menuAt(index: number, event: MouseEvent): void {
  event.preventDefault()
  cursor.value = index
  openMenu(event)
}

async function keydown(event: KeyboardEvent): Promise<void> {
  const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10, Home: -1e6, End: 1e6 }[event.key]
  if (step !== undefined) {
    event.preventDefault()
    event.stopPropagation()
    return goTo(cursor.value + step)
  }
  if (event.key === 'ContextMenu' || (event.shiftKey && event.key === 'F10')) {
    event.preventDefault()
    event.stopPropagation()
    return openMenu(ledger.value?.rowElement())
  }
  if (event.key !== 'Delete' || !atCursor.value) return
  event.preventDefault()
  event.stopPropagation()
  await remove()
}

async function remove(): Promise<void> {
  const row = atCursor.value
  if (!row) return
  if (row.isShipped) return say(`"${row.name}" is built in and can't be deleted.`)
  const used = row.usedIn.length > 0 ? `${counted(row.usedIn.length, 'preset')} keep copies of it.` : 'No preset holds it.'
  const sure = await ElMessageBox.confirm(used, `Delete the pattern "${row.name}"?`, { confirmButtonText: 'Delete this pattern', cancelButtonText: 'Cancel' }).catch(() => undefined)
  if (sure) await saying(() => patterns.remove(row.id))
}

async function setFolder(): Promise<void> {
  const row = atCursor.value
  if (!row) return
  const answer = await ElMessageBox.prompt('Folder, then tags after commas.', `Folder and tags of "${row.name}"`, { inputValue: [row.folder, ...row.tags].join(', '), confirmButtonText: 'Save', cancelButtonText: 'Cancel' }).catch(() => undefined)
  if (!answer || !('value' in answer)) return
  const [into = '', ...tags] = String(answer.value).split(',').map(part => part.trim())
  await saying(() => patterns.setDetails(row.id, { folder: into, tags: tags.filter(Boolean) }))
}

const star = (row: { readonly id: string, readonly favourite: boolean }) => void saying(() => patterns.setDetails(row.id, { favourite: !row.favourite }))
const aboutText = computed(() => {
  const row = atCursor.value
  if (!row) return ''
  const swing = row.swing.percent > 50 ? `, swing ${row.swing.percent} % of ${row.swing.step}ths` : ''
  return `${row.folder || 'No folder'}${row.tags.length > 0 ? ` · ${row.tags.join(', ')}` : ''} · ${counted(row.bars, 'bar')}, ${counted(row.hits, 'hit')}${swing}${row.usedIn.length > 0 ? ` · in ${row.usedIn.join(', ')}` : ''}`
})
</script>

<template>
  <div class="find">
    <el-input v-model="words" size="small" placeholder="Words, tags, kinds" aria-label="Find patterns" clearable />
    <el-select v-model="folder" size="small" class="folder" aria-label="Folder">
      <el-option :value="ALL" label="All folders" />
      <el-option v-for="name in folders" :key="name" :value="name" :label="name || 'No folder'" />
    </el-select>
    <el-button size="small" :type="favouritesOnly ? 'primary' : ''" :icon="StarFilled" :aria-pressed="favouritesOnly" aria-label="Favourites only" @click="favouritesOnly = !favouritesOnly" />
  </div>
  <p class="hold">
    <el-checkbox :model-value="settings.groove.holdsPattern" size="small" title="Opening another kit keeps this pattern" @update:model-value="settings.groove = { ...settings.groove, holdsPattern: Boolean($event) }">
      keep pattern
    </el-checkbox>
    <el-checkbox :model-value="settings.groove.keepsTempo" size="small" title="Patterns play at the current tempo" @update:model-value="settings.groove = { ...settings.groove, keepsTempo: Boolean($event) }">
      keep the tempo
    </el-checkbox>
    <span class="quiet figure">{{ found.length }}</span>
  </p>
  <LedgerTable ref="ledger" label="Patterns" :columns="COLUMNS" :total="found.length" :row-at="rowAt" :cursor="cursor" class="list" draggable @press="goTo($event)" @keydown="keydown" @menu="menuAt" @drag-row="dragOut">
    <template #cell="{ column, row }">
      <template v-if="column === 'name'">
        <button type="button" tabindex="-1" class="star" :class="{ on: row.favourite }" :aria-label="row.favourite ? `${row.name} is a favourite` : `Make ${row.name} a favourite`" @click.stop="star(row)">
          <el-icon :size="12"><StarFilled /></el-icon>
        </button><span class="cut" :title="row.name">{{ row.name }}</span>
      </template>
      <span v-else-if="column === 'metre'" class="figure">{{ row.metre.beats }}/{{ row.metre.unit }}</span>
      <span v-else-if="column === 'tempo'" class="figure">{{ Math.round(row.tempoBpm) }}</span>
      <span v-else class="figure">{{ row.hitsPerBar.toFixed(1) }}</span>
    </template>
  </LedgerTable>
  <p class="about quiet">
    {{ aboutText }}
  </p>
  <p class="acts">
    <el-button size="small" :disabled="!atCursor" @click="setFolder">
      Folder and tags…
    </el-button>
    <el-button size="small" :disabled="!atCursor" @click="atCursor && star(atCursor)">
      {{ atCursor?.favourite ? 'No favourite' : 'Favourite' }}
    </el-button>
    <el-button size="small" :disabled="!atCursor || atCursor.isShipped" @click="remove">
      Delete…
    </el-button>
  </p>
</template>

<style scoped>
.find { display: flex; gap: 4px; padding: 6px 8px 2px; }
.folder { width: 120px; flex: none; }
.hold { display: flex; gap: 10px; align-items: center; margin: 0; padding: 0 8px; }
.hold .figure { margin-left: auto; }
.list { flex: 1; }
.star { display: inline-flex; align-items: center; justify-content: center; width: 24px; height: 24px; padding: 0; border: 0; background: none; color: color-mix(in srgb, var(--quiet) 45%, transparent); cursor: pointer; flex: none; }
.star.on { color: var(--accent); }
.about { margin: 0; padding: 4px 8px; font-size: 12px; border-top: 1px solid var(--rule); min-height: 42px; }
.acts { display: flex; gap: 4px; margin: 0; padding: 0 8px 6px; }
.acts .el-button { margin: 0; }
</style>
