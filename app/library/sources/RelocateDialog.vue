<script setup lang="ts">
import { sourceRoutes, type SourceView } from '~~/contract/sources'
import { api } from '../../parts/useApi'
import { say, saying } from '../../parts/useSay'
import { useLibrary } from '../library'

/** Points a source to where its folder lies now. */
const source = defineModel<SourceView | undefined>({ required: true })

const library = useLibrary()
const path = ref('')
const isBusy = ref(false)
const isOpen = computed({ get: () => source.value !== undefined, set: (open) => { if (!open) source.value = undefined } })

watch(source, moved => path.value = moved?.path ?? '')

async function relocate(): Promise<void> {
  const moved = source.value
  if (!moved) return
  isBusy.value = true
  await saying(async () => {
    await api(sourceRoutes.change, { params: { id: moved.id }, body: { path: path.value } })
    await library.loadSources()
    say(`"${moved.name}" is now at ${path.value}. It is being scanned; sounds are known again by their audio.`)
    source.value = undefined
  })
  isBusy.value = false
}
</script>

<template>
  <el-dialog v-model="isOpen" :title="`New location of &quot;${source?.name ?? ''}&quot;`" width="620" append-to-body destroy-on-close>
    <FolderBrowser v-model="path" />
    <p class="quiet">
      Files at the same places are taken as they are; moved and renamed ones are known again by their audio, with all that was set by hand.
    </p>
    <template #footer>
      <el-button @click="isOpen = false">
        Cancel
      </el-button>
      <el-button type="primary" :loading="isBusy" :disabled="path === '' || path === source?.path" @click="relocate">
        Point to this folder
      </el-button>
    </template>
  </el-dialog>
</template>
