<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { EmporionError } from '~~/core/errors'
import { padLabel } from '~~/core/kit/padLabel'
import { listed } from '~~/core/wording'
import { dropPlaceAt, type DropPlace } from '../parts/useDropPlace'
import { carriesFiles, readDropped, type Dropped } from '../parts/useDroppedFiles'
import { say, saying } from '../parts/useSay'
import { useUpload, type Uploadable } from '../parts/useUpload'
import { counted, whole } from '../parts/useFormat'
import { useDoors } from '../parts/doors'
import { useKit, usePlacing } from '../bench'
import { useTray } from '../tray'

/** Takes what is dropped from outside in any view to where it belongs, by what it is and by the place. The browser never goes to it. */
const over = shallowRef<{ readonly place: DropPlace | undefined, readonly box: Record<string, string> }>()
const upload = useUpload()
const doors = useDoors()
const kit = useKit()
const placing = usePlacing()
const tray = useTray()
const route = useRoute()

const LABELS: Readonly<Record<string, string>> = {
  '/grooves': 'Drop MIDI files to import them as patterns',
  '/fit': 'Drop a kit to import it: SoundFont, DLS, a .zip, or a folder',
  '/vault': 'Drop a kit package or another kit to import it',
}
const label = computed(() => {
  const place = over.value?.place
  switch (place?.type) {
    case 'pad':
      return `Drop onto pad ${padLabel(place.padIndex)}`
    case 'kit':
      return 'Drop to place on pads'
    case 'tray':
      return 'Drop to bring in and add to the tray'
    default:
      return LABELS[route.path] ?? 'Drop to bring in this folder or archive'
  }
})

const WHOLE = { inset: '12px' }
/** What lies below the pointer. */
const target = shallowRef<EventTarget>()

useEventListener(window, ['dragenter', 'dragover'], (event: DragEvent) => {
  if (!carriesFiles(event)) return
  event.preventDefault()
  target.value = event.target ?? undefined
  const found = dropPlaceAt(event.target)
  over.value = { place: found?.place, box: found ? boxOf(found.element) : WHOLE }
})

function boxOf(element: Element): Record<string, string> {
  const { left, top, width, height } = element.getBoundingClientRect()
  return { left: `${left}px`, top: `${top}px`, width: `${width}px`, height: `${height}px` }
}

useEventListener(window, 'dragleave', (event) => {
  if (event.relatedTarget === null) over.value = undefined
})

// No pointer moves are sent during a drag: the first one means that it ended elsewhere.
useEventListener(window, 'pointermove', () => {
  over.value = undefined
})

useEventListener(window, 'drop', takeDrop)
// The browser drops on what was below the pointer at the last move: where a view has just put something else there, the page does not learn of it.
useEventListener(target, 'drop', (event: DragEvent) => {
  if (event.target instanceof Node && !event.target.isConnected) void takeDrop(event)
})

async function takeDrop(event: DragEvent): Promise<void> {
  if (!carriesFiles(event)) return
  event.preventDefault()
  over.value = undefined
  target.value = undefined
  // What comes first may lead to another view: the rest is for the one that it was dropped on.
  const view = route.path
  const place = dropPlaceAt(event.target)?.place
  const dropped = await readDropped(event)
  const unopened = dropped.filter(one => isKit(one, view, place)).slice(1)
  for (const one of dropped) if (!unopened.includes(one)) await saying(() => take(one, view, place))
  if (unopened.length > 0) say(`Kits are imported one at a time: ${listed(unopened.map(one => `"${nameOf(one)}"`), 3)} not opened.`)
}

/** What is opened as a kit here. */
function isKit(one: Dropped, view: string, place: DropPlace | undefined): boolean {
  if (one.type === 'kit') return true
  if (place) return false
  if (one.type === 'archive') return view === '/fit' || (view === '/vault' && !one.isPackage)
  return one.type === 'folder' && (view === '/fit' || (view === '/vault' && one.others.length > 0))
}

function nameOf(one: Dropped): string {
  return one.type === 'folder' ? one.name : 'file' in one ? one.file.name : ''
}

async function take(dropped: Dropped, view: string, place: DropPlace | undefined): Promise<void> {
  if (isKit(dropped, view, place)) {
    doors.kit = dropped.type === 'folder' ? dropped : 'file' in dropped ? dropped.file : undefined
    if (view !== '/vault') await navigateTo('/fit')
    return
  }
  switch (dropped.type) {
    case 'archive':
      if (view === '/vault' && !place) doors.packages = [...doors.packages, dropped.file]
      else await takeSounds(dropped, place)
      return
    case 'folder':
      return takeSounds(dropped, place)
    case 'midi':
      doors.midi = dropped.files
      return void await navigateTo('/grooves')
    case 'other':
      throw new EmporionError('unsupported', { what: `Emporion does not open ${listed(dropped.names.map(name => `"${name}"`), 3)}.`, kept: 'Nothing was imported.', next: 'Drop audio files, a folder, a .zip, a SoundFont or DLS bank, or MIDI files. An SFZ file comes with its samples, in a folder or a .zip.' })
  }
}

/** Brings sounds in; what was dropped on a pad, the kit or the tray goes there as soon as it is read. */
async function takeSounds(dropped: Uploadable, place: DropPlace | undefined): Promise<void> {
  if (!place) return upload.upload(dropped)
  if (place.type === 'tray') {
    const rows = await upload.bringIn(dropped)
    await tray.add(rows)
    return say(`${counted(rows.length, 'sound')} brought in and added to the tray.`)
  }
  const rows = await kit.stillAtHand(upload.bringIn(dropped))
  if (place.type === 'pad') placing.send(place.padIndex, rows)
  else placing.open(rows)
}
</script>

<template>
  <div v-if="over" class="zone" :class="{ whole: !over.place, low: over.place?.type === 'pad' }" :style="over.box" aria-hidden="true">
    <span>{{ label }}</span>
  </div>
  <div v-if="upload.running.value" class="sending" role="status">
    <strong>Copying {{ upload.name.value }}</strong>
    <span class="figure">{{ whole(upload.done.value) }} of {{ counted(upload.total.value, 'file') }}</span>
    <el-button size="small" @click="upload.cancel()">
      Cancel
    </el-button>
  </div>
</template>

<style scoped>
.zone { position: fixed; z-index: 50; display: grid; place-items: center; border: 2px dashed var(--accent); background: color-mix(in srgb, var(--sheet) 88%, transparent); font-size: 14px; font-weight: 600; pointer-events: none; }
.zone.whole { font-size: 18px; }
/* A pad is lower than its words, and stays in sight. */
.zone.low { background: none; overflow: visible; }
.low span { padding: 2px 8px; background: var(--sheet); border: 1px solid var(--accent); white-space: nowrap; }
.sending { display: flex; align-items: center; gap: 12px; padding: 4px 12px; border-bottom: 1px solid var(--rule); background: var(--sheet); }
</style>
