<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { carriesFiles, readDropped } from '../../composables/useDroppedFiles'
import { saying } from '../../composables/useSay'
import { useUpload } from '../../composables/useUpload'
import { counted, whole } from '../../composables/useFormat'

/** Takes folders and archives that are dropped anywhere on the page. */
const over = ref(false)
const upload = useUpload()

useEventListener(window, ['dragenter', 'dragover'], (event: DragEvent) => {
  if (!carriesFiles(event)) return
  event.preventDefault()
  over.value = true
})

useEventListener(window, 'dragleave', (event) => {
  if (event.relatedTarget === null) over.value = false
})

// While something is dragged no pointer moves are told: one that is told means the drag ended elsewhere.
useEventListener(window, 'pointermove', () => {
  over.value = false
})

useEventListener(window, 'drop', async (event) => {
  if (!carriesFiles(event)) return
  event.preventDefault()
  over.value = false
  const dropped = await readDropped(event)
  if (dropped.length === 0) ElMessage({ type: 'warning', message: 'There is no audio in what was dropped. Drop a folder of samples, audio files, or a .zip.' })
  for (const one of dropped) await saying(() => upload.upload(one))
})
</script>

<template>
  <div v-if="over" class="zone" aria-hidden="true">
    Let go to bring in this folder or archive
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
