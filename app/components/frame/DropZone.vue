<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { EmporionError } from '~~/core/errors'
import { listed } from '~~/core/wording'
import { carriesFiles, readDropped, type Dropped } from '../../composables/useDroppedFiles'
import { say, saying } from '../../composables/useSay'
import { useUpload } from '../../composables/useUpload'
import { counted, whole } from '../../composables/useFormat'
import { useDoors } from '../../stores/doors'

/** Takes what is dropped from outside in any view to where it belongs, by what it is and by the view. The browser never goes to it. */
const over = ref(false)
const upload = useUpload()
const doors = useDoors()
const route = useRoute()

const LABELS: Readonly<Record<string, string>> = {
  '/grooves': 'Drop MIDI files to import them as patterns',
  '/fit': 'Drop a kit to import it: SoundFont, DLS or a .zip',
  '/vault': 'Drop a kit package to import it',
}
const label = computed(() => LABELS[route.path] ?? 'Drop to bring in this folder or archive')

useEventListener(window, ['dragenter', 'dragover'], (event: DragEvent) => {
  if (!carriesFiles(event)) return
  event.preventDefault()
  over.value = true
})

useEventListener(window, 'dragleave', (event) => {
  if (event.relatedTarget === null) over.value = false
})

// No pointer moves are sent during a drag: the first one means that it ended elsewhere.
useEventListener(window, 'pointermove', () => {
  over.value = false
})

useEventListener(window, 'drop', async (event) => {
  if (!carriesFiles(event)) return
  event.preventDefault()
  over.value = false
  // What comes first may lead to another view: the rest is for the one that it was dropped on.
  const view = route.path
  const dropped = await readDropped(event)
  const unopened = dropped.flatMap(one => one.type === 'kit' || (one.type === 'archive' && view === '/fit') ? [one] : []).slice(1)
  for (const one of dropped) if (!unopened.some(other => other === one)) await saying(() => take(one, view))
  if (unopened.length > 0) say(`Kits are imported one at a time: ${listed(unopened.map(({ file }) => `"${file.name}"`), 3)} not opened.`)
})

async function take(dropped: Dropped, view: string): Promise<void> {
  switch (dropped.type) {
    case 'folder':
      return void await upload.upload(dropped)
    case 'archive':
      if (view === '/vault') doors.packages = [...doors.packages, dropped.file]
      else if (view === '/fit') doors.kit = dropped.file
      else await upload.upload(dropped)
      return
    case 'kit':
      doors.kit = dropped.file
      return void await navigateTo('/fit')
    case 'midi':
      doors.midi = dropped.files
      return void await navigateTo('/grooves')
    case 'other':
      throw new EmporionError('unsupported', { what: `Emporion does not open ${listed(dropped.names.map(name => `"${name}"`), 3)}.`, kept: 'Nothing was imported.', next: 'Drop audio files, a folder, a .zip, a SoundFont or DLS bank, or MIDI files. An SFZ file comes with its samples, in a folder or a .zip.' })
  }
}
</script>

<template>
  <div v-if="over" class="zone" aria-hidden="true">
    {{ label }}
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
.zone { position: fixed; inset: 12px; z-index: 50; display: grid; place-items: center; border: 2px dashed var(--accent); background: color-mix(in srgb, var(--sheet) 88%, transparent); font-size: 18px; font-weight: 600; pointer-events: none; }
.sending { display: flex; align-items: center; gap: 12px; padding: 4px 12px; border-bottom: 1px solid var(--rule); background: var(--sheet); }
</style>
