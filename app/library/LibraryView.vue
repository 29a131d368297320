<script setup lang="ts">
import { FolderAdd } from '@element-plus/icons-vue'
import { padLabel } from '~~/core/kit/padLabel'
import type { SoundRow } from '~~/contract/library'
import { beginDrag } from '../parts/dragged'
import { offerSound, soundFileUrl, usePlayer } from '../sound'
import { ALIKE_COLUMN, chosenColumns, SOUND_COLUMNS } from './soundColumns'
import { isWords, soundText } from './soundText'
import { useAfterResult } from './useAfterResult'
import { useCommands, type CommandHandlers } from '../parts/useCommands'
import { downloadUrl } from '../parts/useDownload'
import { counted, whole } from '../parts/useFormat'
import { useFirstFocus } from '../parts/useFirstFocus'
import { useFocusAfter } from '../parts/useFocusAfter'
import { useMarks } from './useMarks'
import { useSoundActions } from './useSoundActions'
import { useSoundCursor } from './useSoundCursor'
import { say, saying } from '../parts/useSay'
import { useCompare } from './compare'
import { useDemo } from './sources/demo'
import { useHeld } from './held'
import { useJobs } from '../parts/jobs'
import { useKeyChoices } from '../parts/keys/keys'
import { useKit } from '../bench'
import { useLibrary } from './library'
import { useMenu } from '../parts/menu'
import { useSettings } from '../parts/settings'
import { MOST_ON_TRAY } from '../tray'
import { useTryOut } from '../grooves'

const PAGE_STEP = 16

const library = useLibrary()
const player = usePlayer()
const kit = useKit()
const jobs = useJobs()
const settings = useSettings()
const compare = useCompare()
const tryOut = useTryOut()
const held = useHeld()
const demo = useDemo()
const keys = useKeyChoices()
const marks = useMarks()
const menu = useMenu()
const { goTo, move, toResult } = useSoundCursor()
const { toTray, putOnPad, placeInSomeWay, keepOrTray, toggleFavourite, toggleAside, mark, openCompare, findLike, startTryOut, keepSearch } = useSoundActions()
const searchLine = useTemplateRef<{ focus: () => void }>('searchLine')
const table = useTemplateRef<{ focus: () => void, showRow: (index: number) => void, rowElement: () => HTMLElement | null }>('table')
const bringInOpen = ref(false)
const sourcesOpen = ref(false)
const columnsOpen = ref(false)
const helpOpen = ref(false)
const marksOpen = ref(false)
const marked = shallowRef<{ ids: readonly number[], single: SoundRow | undefined }>({ ids: [], single: undefined })

/** What the open panel of figures says anyway gives it its room. */
const SAID_BESIDE = new Set(['folder', 'length', 'peak', 'rate', 'bits', 'channels'])
const columns = computed(() => {
  const chosen = chosenColumns(settings.columns).map(column => ({ ...column, isSortable: column.sort !== undefined }))
  if (library.isByNearness) {
    const others = chosen.filter(column => column.key !== 'folder')
    const after = others.findIndex(column => column.key === 'name') + 1
    return others.toSpliced(after, 0, { ...ALIKE_COLUMN, isSortable: false })
  }
  return settings.figuresOpen && settings.columns.length === 0 ? chosen.filter(column => !SAID_BESIDE.has(column.key)) : chosen
})

const isEmpty = computed(() => library.loaded && library.total === 0 && !library.isFiltered)
const hints = computed(() => {
  if (isEmpty.value) return keys.hints(['bringIn', 'play', 'toTray', 'toPad', 'tray', 'keys'], { bringIn: 'bring in sounds', play: 'then listen', toTray: 'keep on the tray', toPad: 'put on a pad' })
  if (tryOut.isOn) return keys.hints(['next', 'toTray', 'clear', 'play', 'keys'], { toTray: 'keep on the pad', clear: 'back to the original', play: 'pause the pattern' })
  return keys.hints(['play', 'toTray', 'toPad', 'favourite', compare.rows.length > 0 ? 'compare' : 'search', 'keys'], { toPad: `place on pad ${padLabel(kit.padIndex)}`, compare: `compare ${compare.rows.length} marked` })
})

const unreadable = computed(() => library.sources.reduce((sum, source) => sum + source.unreadable, 0))

const isChosen = (index: number) => library.chosen.has(index)
const rowAt = (index: number) => library.rows.get(index)

async function openMarks(): Promise<void> {
  const ids = await saying(() => library.fetchChosenIds()) ?? []
  marked.value = { ids, single: ids.length === 1 ? library.atCursor : undefined }
  marksOpen.value = ids.length > 0
}

function back(): void {
  if (tryOut.isOn) tryOut.end()
  else library.clearFilters()
}

useFocusAfter(() => tryOut.isOn, () => table.value?.focus())

function press(index: number, event: MouseEvent): void {
  table.value?.focus()
  if (event.ctrlKey || event.metaKey) library.toggle(index)
  else void goTo(index, event.timeStamp, event.shiftKey, 0)
}

function drag(index: number, event: DragEvent): void {
  const row = library.rows.get(index)
  if (!row) return
  if (library.chosen.has(index)) beginDrag(event, library.chosenCount, library.fetchChosen(MOST_ON_TRAY))
  else beginDrag(event, 1, Promise.resolve([row]))
  if (library.chosenCount === 1 || !library.chosen.has(index)) offerSound(event, row)
}

/** Plays the first of what was typed for, even when the key is faster than the answer. */
async function leaveSearch(pressedAt: number): Promise<void> {
  table.value?.focus()
  await toResult(pressedAt)
}

function resize(key: string, width: number): void {
  settings.columns = chosenColumns(settings.columns).map(column => ({ key: column.key, width: column.key === key ? width : settings.columns.find(choice => choice.key === column.key)?.width }))
}

function sort(key: string): void {
  const by = SOUND_COLUMNS.find(column => column.key === key)?.sort
  if (by) library.sortBy(by)
}
const sortedBy = computed(() => library.isByNearness ? undefined : SOUND_COLUMNS.find(column => column.sort === library.search.sort)?.key)

function chooseAll(): void {
  const count = library.chooseAll()
  if (count < library.total) say(`${counted(count, 'sound')} found by name ${count === 1 ? 'is' : 'are'} selected. Again for all ${whole(library.total)}.`)
}

/** Where what was not found by its name begins. */
const dividers = computed(() => {
  const { words, kind, near } = library.counts
  if (!library.isFiltered || words + kind + near !== library.total) return new Map<number, string>()
  return new Map([
    ...kind > 0 && words > 0 ? [[words, `${counted(kind, 'sound')} by kind, not by name`] as const] : [],
    ...near > 0 && words + kind > 0 ? [[words + kind, `${counted(near, 'sound')} spelled nearly so`] as const] : [],
  ])
})

const onList = useAfterResult()
const handlers: CommandHandlers = {
  soundMenu: onList(() => openMenu(table.value?.rowElement())),
  next: onList(move(1)),
  previous: onList(move(-1)),
  extendNext: onList(move(1, true)),
  extendPrevious: onList(move(-1, true)),
  pageNext: onList(move(PAGE_STEP)),
  pagePrevious: onList(move(-PAGE_STEP)),
  extendPageNext: onList(move(PAGE_STEP, true)),
  extendPagePrevious: onList(move(-PAGE_STEP, true)),
  first: onList(move(-Infinity)),
  last: onList(move(Infinity)),
  extendFirst: onList(move(-Infinity, true)),
  extendLast: onList(move(Infinity, true)),
  chooseAll: onList(chooseAll),
  play: onList((event) => {
    if (tryOut.isOn) tryOut.pause()
    else if (player.atHand) player.toggle(event.timeStamp)
    else void goTo(library.cursor, event.timeStamp)
  }),
  toTray: onList(keepOrTray),
  toPad: onList(() => void putOnPad()),
  placing: onList(() => void placeInSomeWay()),
  tryOut: onList(startTryOut),
  mark: onList(() => void mark()),
  compare: openCompare,
  like: onList(() => findLike('like')),
  same: onList(() => findLike('same')),
  family: onList(() => findLike('family')),
  aside: onList(() => void toggleAside()),
  favourite: onList(() => void toggleFavourite()),
  byHand: onList(() => void openMarks()),
  undo: () => void marks.undo(),
  redo: () => void marks.redo(),
  narrow: () => library.narrow(),
  widen: () => library.widen(),
  filters: () => void (settings.filtersOpen = !settings.filtersOpen),
  search: () => searchLine.value?.focus(),
  clear: back,
  saveSearch: () => void keepSearch(),
  figures: () => void (settings.figuresOpen = !settings.figuresOpen),
  bringIn: () => void (bringInOpen.value = true),
  sources: () => void (sourcesOpen.value = true),
  match: () => void (settings.matchLevels = !settings.matchLevels),
  nextHit: event => player.toHit(1, event.timeStamp),
  previousHit: event => player.toHit(-1, event.timeStamp),
  firstHit: () => void (player.firstHitOnly = !player.firstHitOnly),
  loop: () => void (player.isLooped = !player.isLooped),
  reverse: () => void (player.isReversed = !player.isReversed),
  higher: () => player.transpose(1),
  lower: () => player.transpose(-1),
  ownPitch: () => player.transpose(0),
  held: () => held.toggle(),
}
useCommands('library', handlers)

const ON_SOUNDS = ['play', 'toTray', 'toPad', 'placing', 'tryOut', 'favourite', 'byHand', 'aside', 'mark', 'like', 'same', 'family', 'narrow']

/** Opens the menu of the sound at the cursor, or of all that are selected. */
function openMenu(at: Event | Element | null | undefined): void {
  const row = library.atCursor
  if (!row) return
  const items = keys.items(ON_SOUNDS, handlers, { toPad: `place on pad ${padLabel(kit.padIndex)}`, favourite: row.favourite ? 'remove from favourites' : 'add to favourites', aside: row.setAside ? 'bring back' : 'set aside', tryOut: tryOut.isOn ? 'end the try-out' : 'try out in a pattern' })
  menu.open(at, library.chosenCount > 1 ? counted(library.chosenCount, 'sound') : row.name, [...items, { does: 'Save as a file', act: () => downloadUrl(soundFileUrl(row.hash)), divided: true, disabled: library.chosenCount > 1 }])
}

function menuAt(index: number, event: MouseEvent): void {
  event.preventDefault()
  if (!library.chosen.has(index)) library.moveTo(index)
  openMenu(event)
}

useFirstFocus(table)
onMounted(() => nextTick(() => table.value?.showRow(library.cursor)))
onUnmounted(() => {
  if (tryOut.isOn) tryOut.end()
})
</script>

<template>
  <div class="view">
    <header class="bar">
      <h1 class="visually-hidden">
        Library
      </h1>
      <SearchLine ref="searchLine" @leave="leaveSearch" @help="helpOpen = true" />
      <el-button :title="unreadable > 0 ? `${counted(unreadable, 'file')} could not be read` : ''" @click="sourcesOpen = true">
        Sources<span v-if="unreadable > 0" class="look">&nbsp;· {{ whole(unreadable) }} unreadable</span>
      </el-button>
      <el-button type="primary" :icon="FolderAdd" @click="bringInOpen = true">
        Bring in…
      </el-button>
    </header>
    <TryOutBar v-if="tryOut.isOn" @keep="keepOrTray" />
    <div v-if="isEmpty" class="empty">
      <template v-if="jobs.active.length > 0">
        <h1>Reading the first sounds</h1>
        <p>They appear here as they are read.</p>
      </template>
      <template v-else>
        <h1>Bring in your sounds</h1>
        <ul class="ways">
          <li>
            <el-button type="primary" :icon="FolderAdd" @click="bringInOpen = true">
              Bring in a folder…
            </el-button>
            <span class="quiet">on this computer. Your files stay where they are and are never changed.</span>
          </li>
          <li class="drop">
            <strong>Drop a folder, files or a .zip here</strong>
            <span class="quiet">and they are copied into Emporion's data folder.</span>
          </li>
          <li>
            <el-button :loading="demo.isBeingMade" @click="saying(demo.add)">
              Look around with demo sounds
            </el-button>
            <span class="quiet">400 sounds and a dozen kits, made here in half a minute; removed again in one step, under Sources.</span>
          </li>
        </ul>
      </template>
    </div>
    <template v-else>
      <div class="summary">
        <ScopeBar />
        <el-button size="small" :aria-pressed="settings.filtersOpen" @click="settings.filtersOpen = !settings.filtersOpen">
          Filters
        </el-button>
        <el-button size="small" @click="columnsOpen = true">
          Columns…
        </el-button>
        <el-button size="small" @click="openMarks">
          Edit details…
        </el-button>
        <el-button size="small" @click="toTray">
          Add {{ counted(library.chosenCount, 'sound') }} to the tray
        </el-button>
      </div>
      <div class="work">
        <FacetPanel v-if="settings.filtersOpen" />
        <div v-if="library.loaded && library.total === 0" class="empty over">
          <h1>No sounds found</h1>
          <p>Words are looked for at the beginning of words in names, folders, tags and notes; what is hidden is counted above.</p>
          <el-button @click="library.clearFilters()">
            Show every sound
          </el-button>
        </div>
        <LedgerTable
          ref="table"
          label="Sounds"
          :columns="columns"
          :total="library.total"
          :row-at="rowAt"
          :dividers="dividers" :cursor="library.cursor"
          :is-chosen="isChosen"
          :version="library.version"
          :sorted-by="sortedBy"
          :is-descending="library.search.descending"
          is-resizable
          draggable
          @need="library.need"
          @press="press"
          @open="toTray"
          @drag-row="drag"
          @menu="menuAt"
          @sort="sort"
          @resize="resize"
        >
          <template #cell="{ column, row }">
            <!-- Text needs no component of its own: most cells of a screen are that. -->
            <span v-if="soundText(column, row, settings.middleC) !== undefined" :class="[isWords(column) ? 'cut' : 'figure', { quiet: column === 'folder' }]" :title="isWords(column) ? soundText(column, row, settings.middleC) : undefined">{{ soundText(column, row, settings.middleC) }}</span>
            <SoundCell v-else :column="column" :row="row" />
          </template>
        </LedgerTable>
        <SoundFigures v-if="settings.figuresOpen && library.atCursor" :row="library.atCursor" />
      </div>
    </template>
    <HeldPanel v-if="held.isOn" />
    <FootLine :hints="hints" />
    <BringInDialog v-model="bringInOpen" />
    <SourcesDialog v-model="sourcesOpen" />
    <MarksDialog v-model="marksOpen" :ids="marked.ids" :single="marked.single" />
    <ColumnsDialog v-model="columnsOpen" />
    <KeysDialog v-model="helpOpen" tab="search" />
    <CompareDialog />
  </div>
</template>

<style scoped>
.work { position: relative; display: flex; flex: 1; min-height: 0; }
.over { position: absolute; left: 50%; top: 30%; z-index: 2; margin: 0; }
.summary { display: flex; align-items: center; gap: 6px; padding: 2px 12px; min-height: 32px; border-bottom: 1px solid var(--rule); }
.empty h1 { font-size: 15px; }
.empty:has(.ways) { max-width: 480px; }
.ways { display: grid; gap: 14px; margin: 14px 0 0; padding: 0; list-style: none; text-align: left; }
.ways .el-button { margin: 0; }
.ways li { display: grid; gap: 4px; justify-items: start; }
.ways .drop { padding: 14px; border: 2px dashed var(--rule); }
</style>
