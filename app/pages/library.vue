<script setup lang="ts">
import { FolderAdd, StarFilled } from '@element-plus/icons-vue'
import { EmporionError } from '~~/core/errors'
import { MOST_PADS } from '~~/core/kit/document'
import { kindLabel } from '~~/core/search/kinds'
import { padLabel } from '~~/core/formats/sfz/write'
import type { SoundRow } from '~~/server/library/search'
import type { LedgerColumn } from '../components/common/LedgerTable.vue'
import { beginDrag } from '../audio/dragged'
import { FLAG_WORDS } from '../composables/useFlagWords'
import { counted, lufs, seconds, whole } from '../composables/useFormat'
import { useFirstFocus } from '../composables/useFirstFocus'
import { useKeys } from '../composables/useKeys'
import { useMarks } from '../composables/useMarks'
import { say, saying } from '../composables/useSay'
import { pictureOf } from '../composables/useWaveformPainter'
import { useJobs } from '../stores/jobs'
import { useKit } from '../stores/kit'
import { useLibrary } from '../stores/library'
import { usePlayer } from '../stores/player'
import { useSettings } from '../stores/settings'
import { MOST_ON_TRAY, useTray } from '../stores/tray'

const PAGE_STEP = 16
/** Neighbours of the cursor that are decoded ahead. */
const AHEAD = 3
/** Sounds that are set by hand at a time; the server takes no more. */
const MOST_MARKED = 10_000
/** Below this a kind is shown with a question mark. */
const SURE = 0.6

const library = useLibrary()
const player = usePlayer()
const tray = useTray()
const kit = useKit()
const jobs = useJobs()
const settings = useSettings()
const marks = useMarks()
const searchBox = useTemplateRef<{ focus: () => void }>('searchBox')
const table = useTemplateRef<{ focus: () => void, showRow: (index: number) => void }>('table')
const bringInOpen = ref(false)
const sourcesOpen = ref(false)
const marksOpen = ref(false)
const marked = shallowRef<readonly SoundRow[]>([])

const allColumns: readonly LedgerColumn[] = [
  { key: 'wave', title: 'Waveform', width: 96 },
  { key: 'name', title: 'Name', width: 180, grows: true },
  { key: 'kind', title: 'Kind', width: 110 },
  { key: 'folder', title: 'Folder', width: 150, grows: true },
  { key: 'length', title: 'Length', width: 64, align: 'right' },
  { key: 'sounds', title: 'Sounds for', width: 78, align: 'right' },
  { key: 'loudness', title: 'Loudness', width: 90, align: 'right' },
  { key: 'brightness', title: 'Bright', width: 52, align: 'right' },
]
/** What the open panel of figures says anyway gives it its room. */
const SAID_BESIDE = new Set(['folder', 'length'])
const columns = computed(() => settings.figuresOpen ? allColumns.filter(column => !SAID_BESIDE.has(column.key)) : allColumns)

const hints = computed(() => [
  { keys: ['↑', '↓'], does: 'move and play' },
  { keys: ['Space'], does: 'play again' },
  { keys: ['Enter'], does: 'to the tray' },
  { keys: ['P'], does: `put on pad ${padLabel(kit.padIndex)}` },
  { keys: ['Shift ↑↓'], does: 'choose several' },
  { keys: ['I'], does: 'figures' },
  { keys: ['M'], does: 'match levels' },
  { keys: ['E'], does: 'set by hand' },
  { keys: ['F'], does: 'favourite' },
  { keys: ['Ctrl Z'], does: 'take back' },
  { keys: ['/'], does: 'search' },
  { keys: ['Esc'], does: 'back to all' },
  { keys: ['T'], does: 'tray' },
  { keys: ['B'], does: 'bring in' },
  { keys: ['S'], does: 'sources' },
])

const favouritesOnly = computed({
  get: () => library.search.favourite === 'yes',
  set: (only) => {
    library.search.favourite = only ? 'yes' : undefined
  },
})

const unreadable = computed(() => library.sources.reduce((sum, source) => sum + source.unreadable, 0))

const isChosen = (index: number) => library.chosen.has(index)
const rowAt = (index: number) => library.rows.get(index)

function goTo(index: number, pressedAt: number, extend = false): void {
  library.moveTo(index, extend)
  if (library.atCursor) void player.playRow(library.atCursor, pressedAt)
  const ahead = Array.from({ length: AHEAD * 2 }, (_, i) => library.cursor + (i < AHEAD ? i + 1 : AHEAD - i - 1))
  player.prepare(ahead.flatMap(place => library.rows.get(place) ?? []))
}

async function toTray(): Promise<void> {
  await saying(async () => {
    if (library.chosenCount > MOST_ON_TRAY) throw new EmporionError('limit', { what: `${counted(library.chosenCount, 'sound')} are chosen; the tray takes ${whole(MOST_ON_TRAY)} at a time.`, kept: 'The tray is as it was.', next: 'Narrow the search or choose fewer.' })
    const rows = await library.fetchChosen()
    const added = await tray.add(rows)
    if (rows.length > 0) say(added > 0 ? `${counted(added, 'sound')} put on the tray.` : 'Already on the tray.')
  })
}

async function putOnPad(): Promise<void> {
  // One more than a kit has pads is enough to say that some were left over.
  const rows = await saying(() => library.fetchChosen(MOST_PADS + 1)) ?? []
  if (rows.length === 0) return
  const last = kit.padIndex
  kit.place(last, rows)
  if (rows.length === 1) {
    say(`"${rows[0]!.name}" put on pad ${padLabel(last)}.`)
    kit.select(last + 1)
  }
}

/** The chosen sounds, for something that is set by hand. */
async function chosenToMark(): Promise<readonly SoundRow[]> {
  return await saying(async () => {
    if (library.chosenCount > MOST_MARKED) throw new EmporionError('limit', { what: `${counted(library.chosenCount, 'sound')} are chosen; up to ${whole(MOST_MARKED)} are set by hand at a time.`, kept: 'Nothing was changed.', next: 'Narrow the search, or lay down a rule for their folder under Sources.' })
    return library.fetchChosen()
  }) ?? []
}

async function openMarks(): Promise<void> {
  marked.value = await chosenToMark()
  marksOpen.value = marked.value.length > 0
}

/** Makes the chosen ones favourites; where all of them are, none of them. */
async function toggleFavourite(): Promise<void> {
  const rows = await chosenToMark()
  if (rows.length > 0) await marks.set(rows.map(row => row.id), { favourite: !rows.every(row => row.favourite) })
}

function press(index: number, event: MouseEvent): void {
  table.value?.focus()
  if (event.ctrlKey || event.metaKey) library.toggle(index)
  else goTo(index, event.timeStamp, event.shiftKey)
}

function drag(index: number, event: DragEvent): void {
  const row = library.rows.get(index)
  if (!row) return
  if (library.chosen.has(index)) beginDrag(event, library.chosenCount, library.fetchChosen(MOST_ON_TRAY))
  else beginDrag(event, 1, Promise.resolve([row]))
}

/** Plays the first of what was typed for, even when the key is faster than the answer. */
async function toResult(pressedAt: number): Promise<void> {
  table.value?.focus()
  await library.settled()
  goTo(library.cursor, pressedAt)
}

function searchKeys(event: KeyboardEvent | Event): void {
  if (!(event instanceof KeyboardEvent)) return
  if (event.key === 'ArrowDown' || event.key === 'Enter') void toResult(event.timeStamp)
  else if (event.key === 'Escape') {
    library.search.q = ''
    table.value?.focus()
  }
  else return
  event.preventDefault()
}

useKeys((event) => {
  if ((event.ctrlKey || event.metaKey) && !event.altKey) {
    const key = event.key.toLowerCase()
    if (key !== 'z' && key !== 'y') return false
    void (key === 'y' || event.shiftKey ? marks.redo() : marks.undo())
    return true
  }
  if (event.altKey) return false
  const step = { ArrowDown: 1, ArrowUp: -1, PageDown: PAGE_STEP, PageUp: -PAGE_STEP, Home: -Infinity, End: Infinity }[event.key]
  if (step !== undefined) {
    goTo(library.cursor + step, event.timeStamp, event.shiftKey)
    return true
  }
  switch (event.key) {
    case ' ':
      if (player.atHand) player.again(event.timeStamp)
      else goTo(library.cursor, event.timeStamp)
      return true
    case 'Enter':
      void toTray()
      return true
    case 'p':
      void putOnPad()
      return true
    case 'i':
      settings.figuresOpen = !settings.figuresOpen
      return true
    case 'm':
      settings.matchLevels = !settings.matchLevels
      return true
    case 'e':
      void openMarks()
      return true
    case 'f':
      void toggleFavourite()
      return true
    case 'b':
      bringInOpen.value = true
      return true
    case 's':
      sourcesOpen.value = true
      return true
    case '/':
      searchBox.value?.focus()
      return true
    case 'Escape':
      library.clearFilters()
      return true
    default:
      return false
  }
})

useFirstFocus(table)
onMounted(() => nextTick(() => table.value?.showRow(library.cursor)))
</script>

<template>
  <div class="view">
    <DropZone />
    <header class="bar">
      <h1 class="visually-hidden">
        Library
      </h1>
      <el-input ref="searchBox" v-model="library.search.q" class="search" clearable placeholder="Search names and folders" aria-label="Search names and folders" @keydown="searchKeys" />
      <KindPicker />
      <SourcePicker />
      <el-checkbox v-model="favouritesOnly" label="Favourites" />
      <div class="spacer" />
      <el-button @click="sourcesOpen = true">
        Sources
      </el-button>
      <el-button type="primary" :icon="FolderAdd" @click="bringInOpen = true">
        Bring in…
      </el-button>
    </header>
    <div v-if="library.loaded && library.total === 0" class="empty">
      <template v-if="library.isFiltered">
        <h1>No sound is found by this</h1>
        <p>The search looks for every word at the beginning of words in names and folders.</p>
        <el-button @click="library.clearFilters()">
          Show every sound
        </el-button>
      </template>
      <template v-else-if="jobs.active.length > 0">
        <h1>The first sounds are on their way</h1>
        <p>They appear here as they are read.</p>
      </template>
      <template v-else>
        <h1>Bring in your sounds</h1>
        <p>Name a folder on this machine, or drop a folder or a .zip on this page. Your files stay where they are and are never changed.</p>
        <el-button type="primary" :icon="FolderAdd" @click="bringInOpen = true">
          Bring in a folder…
        </el-button>
      </template>
    </div>
    <template v-else>
      <div class="summary">
        <span class="figure">{{ whole(library.total) }}</span> {{ library.total === 1 ? 'sound' : 'sounds' }}<template v-if="library.isFiltered">
          found ·
          <a href="#" @click.prevent="library.clearFilters()">show every sound</a>
        </template>
        <template v-if="library.chosen.size > 1">
          · <span class="figure">{{ whole(library.chosen.size) }}</span> chosen
        </template>
        <template v-if="unreadable > 0">
          · <a href="#" class="look" @click.prevent="sourcesOpen = true">{{ counted(unreadable, 'file') }} could not be read</a>
        </template>
        <div class="spacer" />
        <el-button size="small" @click="openMarks">
          Set by hand…
        </el-button>
        <el-button size="small" @click="toTray">
          Put {{ counted(library.chosenCount, 'sound') }} on the tray
        </el-button>
        <el-button size="small" @click="putOnPad">
          Put on pad {{ padLabel(kit.padIndex) }}
        </el-button>
      </div>
      <div class="work">
        <LedgerTable
          ref="table"
          label="Sounds"
          :columns="columns"
          :total="library.total"
          :row-at="rowAt"
          :cursor="library.cursor"
          :is-chosen="isChosen"
          :marks="library.chosen"
          draggable
          @need="library.ensure"
          @press="press"
          @open="toTray"
          @drag-row="drag"
        >
          <template #cell="{ column, row }">
            <span v-if="column === 'wave'" class="thumb"><WaveForm :picture="pictureOf(row)" :label="`Waveform of ${row.name}`" /></span>
            <span v-else-if="column === 'name'" class="cut" :title="row.name"><el-icon v-if="row.favourite" class="star" :size="12" aria-label="Favourite"><StarFilled /></el-icon>{{ row.name }}<span v-if="row.fileCount > 1" class="quiet"> · {{ row.fileCount }} files</span><span v-if="row.warnings > 0" class="look"> · damaged</span><span v-if="row.flags.length > 0" class="look"> · {{ row.flags.map(flag => FLAG_WORDS[flag].word).join(', ') }}</span><span v-if="row.tags.length > 0" class="quiet"> · {{ row.tags.join(', ') }}</span></span>
            <span v-else-if="column === 'kind'" class="kind"><KindStamp :kind="row.kind" /><span class="cut" :class="{ quiet: (row.kindConfidence ?? 0) < SURE }" :title="row.kind ? `${Math.round((row.kindConfidence ?? 0) * 100)} % sure` : ''">{{ row.kind ? kindLabel(row.kind) : '' }}{{ row.kind && (row.kindConfidence ?? 0) < SURE ? '?' : '' }}</span></span>
            <span v-else-if="column === 'folder'" class="cut quiet" :title="row.folder">{{ row.folder }}</span>
            <span v-else-if="column === 'length'" class="figure">{{ seconds(row.lengthSeconds) }}</span>
            <span v-else-if="column === 'sounds'" class="figure">{{ row.effectiveSeconds === null ? '–' : seconds(row.effectiveSeconds) }}</span>
            <span v-else-if="column === 'loudness'" class="figure">{{ lufs(row.hitLufs) }}</span>
            <span v-else class="figure">{{ row.brightness ?? '–' }}</span>
          </template>
        </LedgerTable>
        <SoundFigures v-if="settings.figuresOpen && library.atCursor" :row="library.atCursor" />
      </div>
    </template>
    <FootLine :hints="hints" />
    <BringInDialog v-model="bringInOpen" />
    <SourcesDialog v-model="sourcesOpen" />
    <MarksDialog v-model="marksOpen" :rows="marked" />
  </div>
</template>

<style scoped>
.search { width: 260px; }
.work { display: flex; flex: 1; min-height: 0; }
.summary { display: flex; align-items: center; gap: 5px; padding: 4px 12px; min-height: 32px; }
.thumb { display: block; width: 100%; height: 24px; }
.star { color: var(--accent); margin-right: 4px; vertical-align: -1px; }
.kind { display: flex; align-items: center; gap: 6px; min-width: 0; }
</style>
