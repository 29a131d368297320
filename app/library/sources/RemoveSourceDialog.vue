<script setup lang="ts">
import { sourceRoutes, type SourceView } from '~~/contract/sources'
import { api } from '../../parts/useApi'
import { counted } from '../../parts/useFormat'
import { say, saying } from '../../parts/useSay'
import { useLibrary } from '../library'

/** Takes a source out of the library, with or without what was set by hand of its sounds. */
const source = defineModel<SourceView | undefined>({ required: true })

const library = useLibrary()
const forget = ref(false)
const isBusy = ref(false)
const isOpen = computed({ get: () => source.value !== undefined, set: (open) => { if (!open) source.value = undefined } })

watch(source, () => forget.value = false)

async function remove(): Promise<void> {
  const gone = source.value
  if (!gone) return
  isBusy.value = true
  await saying(async () => {
    await api(sourceRoutes.remove, { params: { id: gone.id }, query: { forget: forget.value ? 'yes' : 'no' } })
    if (library.search.source === gone.id) library.search.source = undefined
    await library.loadSources()
    say(`"${gone.name}" was removed from the library.`)
    source.value = undefined
  })
  isBusy.value = false
}
</script>

<template>
  <el-dialog v-model="isOpen" :title="`Remove &quot;${source?.name ?? ''}&quot; from the library?`" width="480" append-to-body>
    <p>
      {{ source?.uploaded ? 'Its copies in the data folder are deleted.' : 'The folder itself is not changed.' }} Presets in the vault keep their own samples.
    </p>
    <el-radio-group v-model="forget" class="choices">
      <el-radio :value="false">
        Keep kinds, tags, favourites and notes for when these sounds come back
      </el-radio>
      <el-radio :value="true">
        Forget them, of sounds that lie in no other source
      </el-radio>
    </el-radio-group>
    <template #footer>
      <el-button @click="isOpen = false">
        Keep it
      </el-button>
      <el-button type="danger" :loading="isBusy" @click="remove">
        Remove {{ counted(source?.files ?? 0, 'file') }} from the library
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.choices { display: flex; flex-direction: column; align-items: flex-start; }
</style>
