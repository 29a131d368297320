<script setup lang="ts">
import { soundRoutes, type SoundRow } from '~~/contract/library'
import { Folder, Search, Star, StarFilled } from '@element-plus/icons-vue'
import { useVirtualList } from '@vueuse/core'
import { api } from '../../parts/useApi'
import { counted, whole } from '../../parts/useFormat'
import { say, saying } from '../../parts/useSay'
import { useFolders, type FolderLine } from '../folders'
import { useLibrary } from '../library'
import { useMenu, type MenuItem } from '../../parts/menu'
import { useSaved } from '../saved'
import { addedWords, MOST_ON_TRAY, useTray } from '../../tray'

/** Favourite folders, saved searches, and all sources with their folders: a click searches there only, another one everywhere. */
const library = useLibrary()
const folders = useFolders()
const saved = useSaved()
const tray = useTray()
const menu = useMenu()

const LINE_HEIGHT = 24
const MOST_IN_SIGHT = 12
const ROWS_A_REQUEST = 500
const cursor = ref(0)
const id = useId()
const { list: visible, containerProps, wrapperProps, scrollTo } = useVirtualList(toRef(() => [...folders.lines]), { itemHeight: LINE_HEIGHT, overscan: 6 })
const height = computed(() => `${Math.min(MOST_IN_SIGHT, Math.max(1, folders.lines.length)) * LINE_HEIGHT}px`)

onMounted(() => void folders.load())
watch(() => library.version, () => void folders.count(), { immediate: true })
watch(() => folders.lines.length, count => cursor.value = Math.max(0, Math.min(cursor.value, count - 1)))

const isHere = (line: FolderLine) => line.type !== 'search' && library.search.source === line.sourceId && (library.search.folder ?? '') === line.path

function take(line: FolderLine): void {
  if (line.type === 'search') {
    const search = saved.searches.find(one => one.id === line.id)
    if (search) saved.open(search.search)
  }
  else library.lookIn(isHere(line) ? {} : { source: line.sourceId, folder: line.path })
}

function press(index: number, line: FolderLine): void {
  cursor.value = index
  take(line)
}

function star(line: FolderLine): void {
  if (line.type !== 'search') void saying(() => folders.setFavourite(line.sourceId, line.path, !folders.isFavourite(line.sourceId, line.path)))
}

async function toTray(line: FolderLine): Promise<void> {
  if (line.type === 'search') return
  await saying(async () => {
    const rows: SoundRow[] = []
    for (let total = 1; rows.length < Math.min(total, MOST_ON_TRAY);) {
      const page = await api(soundRoutes.list, { query: { source: line.sourceId, folder: line.path || undefined, offset: rows.length, limit: ROWS_A_REQUEST } })
      if (page.rows.length === 0) break
      total = page.total
      rows.push(...page.rows)
    }
    say(addedWords(await tray.add(rows)))
  })
}

function itemsOf(line: FolderLine): MenuItem[] {
  if (line.type === 'search') return [{ does: 'Search', key: 'Enter', act: () => take(line) }, { does: 'Delete this saved search', key: 'Del', act: () => saying(() => saved.remove(line.id)) }]
  return [
    { does: isHere(line) ? 'Search everywhere' : 'Search here only', key: 'Enter', act: () => take(line) },
    { does: folders.isFavourite(line.sourceId, line.path) ? 'Remove from favourites' : 'Add to favourites', key: 'F', act: () => star(line) },
    { does: 'Add its sounds to the tray', act: () => toTray(line) },
    ...line.type === 'folder' && line.hasMore ? [{ does: line.isOpen ? 'Close' : 'Open', key: line.isOpen ? '←' : '→', act: () => folders.toggle(line.key) }] : [],
  ]
}

function openMenu(at: Event | Element | null, index: number): void {
  const line = folders.lines[index]
  cursor.value = index
  if (line) menu.open(at, line.name, itemsOf(line))
}

/** To the line above that this one lies below. */
function toParent(line: FolderLine): void {
  if (line.type !== 'folder') return
  const above = folders.lines.findLastIndex((other, i) => i < cursor.value && other.type === 'folder' && other.depth < line.depth)
  if (above >= 0) moveTo(above)
}

function moveTo(index: number): void {
  cursor.value = Math.max(0, Math.min(folders.lines.length - 1, index))
  const box = containerProps.ref.value
  if (!box) return
  const top = cursor.value * LINE_HEIGHT
  if (top < box.scrollTop || top + LINE_HEIGHT > box.scrollTop + box.clientHeight) scrollTo(cursor.value)
}

function keydown(event: KeyboardEvent): void {
  const line = folders.lines[cursor.value]
  if (event.ctrlKey || event.metaKey || event.altKey || !line) return
  const act = {
    'ArrowDown': () => moveTo(cursor.value + 1),
    'ArrowUp': () => moveTo(cursor.value - 1),
    'Home': () => moveTo(0),
    'End': () => moveTo(Infinity),
    'Enter': () => take(line),
    ' ': () => take(line),
    'f': () => star(line),
    'ArrowRight': () => line.type === 'folder' && line.hasMore && !line.isOpen && void folders.toggle(line.key),
    'ArrowLeft': () => line.type === 'folder' && line.isOpen ? void folders.toggle(line.key) : toParent(line),
    'Delete': () => line.type === 'search' && void saying(() => saved.remove(line.id)),
    'ContextMenu': () => openMenu(document.getElementById(`${id}-${cursor.value}`), cursor.value),
  }[event.shiftKey && event.key === 'F10' ? 'ContextMenu' : event.key]
  if (!act) return
  event.preventDefault()
  event.stopPropagation()
  act()
}
</script>

<template>
  <section>
    <h2>Folders</h2>
    <div v-bind="containerProps" class="tree" role="tree" tabindex="0" aria-label="Folders, favourites and saved searches" :aria-activedescendant="folders.lines.length > 0 ? `${id}-${cursor}` : undefined" :style="{ height }" @keydown="keydown">
      <div v-bind="wrapperProps" role="presentation">
        <div
          v-for="{ data: line, index } in visible"
          :id="`${id}-${index}`"
          :key="line.key"
          class="line"
          role="treeitem"
          :aria-level="line.type === 'folder' ? line.depth + 1 : 1"
          :aria-expanded="line.type === 'folder' && line.hasMore ? line.isOpen : undefined"
          :aria-selected="isHere(line)"
          :aria-label="`${line.name}${line.type === 'favourite' ? ', favourite' : line.type === 'search' ? ', saved search' : ''}${line.type === 'favourite' || line.count === null ? '' : `, ${counted(line.count, 'sound')}`}`"
          :class="{ on: isHere(line), cursor: index === cursor, last: line.type !== 'folder' && folders.lines[index + 1]?.type === 'folder' }"
          :style="{ paddingLeft: `${line.type === 'folder' ? line.depth * 12 : 0}px` }"
          @click="press(index, line)"
          @contextmenu="openMenu($event, index)"
        >
          <button v-if="line.type === 'folder' && line.hasMore" type="button" class="open" tabindex="-1" :aria-label="`${line.isOpen ? 'Close' : 'Open'} ${line.name}`" @click.stop="folders.toggle(line.key)">
            {{ line.isOpen ? '−' : '+' }}
          </button>
          <span v-else class="open"><el-icon><StarFilled v-if="line.type === 'favourite'" /><Search v-else-if="line.type === 'search'" /><Folder v-else /></el-icon></span>
          <span class="cut" :title="line.type === 'search' ? line.name : line.path || line.name">{{ line.name }}</span>
          <span v-if="line.type !== 'favourite' && line.count !== null" class="figure quiet">{{ whole(line.count) }}</span>
          <button v-if="line.type !== 'search'" type="button" class="star" tabindex="-1" :class="{ is: folders.isFavourite(line.sourceId, line.path) }" :aria-label="`${folders.isFavourite(line.sourceId, line.path) ? 'Remove from favourites' : 'Add to favourites'}: ${line.name}`" @click.stop="star(line)">
            <el-icon><StarFilled v-if="folders.isFavourite(line.sourceId, line.path)" /><Star v-else /></el-icon>
          </button>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
section { padding: 4px 10px 2px 12px; }
h2 { margin: 0 0 2px; padding-bottom: 1px; border-bottom: 1px solid var(--rule); font-size: 12px; color: var(--quiet); }
.tree { margin: 0 -8px 0 -6px; overflow-y: auto; overflow-x: hidden; }
.line { display: flex; align-items: center; height: 24px; cursor: pointer; }
.line .cut { flex: 1; min-width: 0; }
.line .figure { margin: 0 2px; font-size: 11px; }
.line:hover { background: var(--chosen); }
.on { background: var(--at-hand); box-shadow: inset 2px 0 0 var(--accent); --quiet: var(--ink); }
.tree:focus-visible .cursor { outline: 1px solid var(--accent); outline-offset: -1px; }
.last { border-bottom: 1px solid var(--rule); }
.open, .star { display: inline-flex; align-items: center; justify-content: center; width: 24px; height: 24px; padding: 0; border: 0; background: none; color: var(--quiet); font: 600 12px var(--figures); flex: none; cursor: pointer; }
.star { opacity: 0; }
.star.is { color: var(--accent); }
.line:hover .star, .star:focus-visible { opacity: 1; }
</style>
