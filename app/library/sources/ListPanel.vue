<script setup lang="ts">
import { addressOf } from '~~/contract/endpoint'
import { sourceRoutes, type ListRead, type SourceView } from '~~/contract/sources'
import { api } from '../../parts/useApi'
import { counted, whole } from '../../parts/useFormat'
import { saying } from '../../parts/useSay'

/** The list of a source as CSV: out of Emporion, and back in. */
const { source } = defineProps<{ source: SourceView }>()

const read = shallowRef<ListRead>()
const file = useTemplateRef<HTMLInputElement>('file')
const isBusy = ref(false)

async function take(event: Event): Promise<void> {
  const input = event.target
  const chosen = input instanceof HTMLInputElement ? input.files?.[0] : undefined
  if (!chosen) return
  isBusy.value = true
  read.value = await saying(async () => api(sourceRoutes.readCsv, { params: { id: source.id }, body: { text: await chosen.text() } }))
  isBusy.value = false
  if (file.value) file.value.value = ''
}
</script>

<template>
  <div>
    <p class="quiet">
      A table with the columns path, kind, tags, favourite and note, one line a file; tags are parted by semicolons. Kinds that Emporion found itself stay open to better findings when such a list comes back unchanged.
    </p>
    <div class="acts">
      <a :href="addressOf(sourceRoutes.asCsv, { params: { id: source.id } })" download>Save the list of {{ counted(source.files, 'file') }} as CSV</a>
      <el-button :loading="isBusy" @click="file?.click()">
        Read a list…
      </el-button>
      <input ref="file" type="file" accept=".csv,text/csv" class="visually-hidden" aria-label="List to read" tabindex="-1" @change="take">
    </div>
    <template v-if="read">
      <p role="status">
        {{ counted(read.rows, 'line') }} read; {{ counted(read.changed, 'sound') }} changed. Ctrl+Z in the Library takes it back.
      </p>
      <p v-if="read.unknownPaths > 0" class="look">
        {{ counted(read.unknownPaths, 'path') }} not in this source, such as {{ read.firstUnknown.slice(0, 3).join(', ') }}{{ read.unknownPaths > 3 ? ` and ${whole(read.unknownPaths - 3)} more` : '' }}.
      </p>
      <p v-if="read.unknownKinds.length > 0" class="look">
        Kinds that are not in the tree were passed over: {{ read.unknownKinds.join(', ') }}.
      </p>
    </template>
  </div>
</template>

<style scoped>
.acts { display: flex; align-items: center; gap: 16px; }
</style>
