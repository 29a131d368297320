<script setup lang="ts">
import { sourceRoutes } from '~~/contract/sources'
import { api } from '../parts/useApi'
import { saying } from '../parts/useSay'

/** Names a folder on this machine to be brought in. */
const open = defineModel<boolean>({ required: true })

const path = ref('')
const busy = ref(false)
const browser = useTemplateRef<{ focus: () => void }>('browser')

async function bringIn(): Promise<void> {
  busy.value = true
  const job = await saying(() => api(sourceRoutes.add, { body: { path: path.value } }))
  busy.value = false
  if (job) open.value = false
}
</script>

<template>
  <el-dialog v-model="open" title="Bring in a folder" width="620" append-to-body destroy-on-close @opened="browser?.focus()">
    <FolderBrowser ref="browser" v-model="path" @keydown.ctrl.enter.stop.prevent="bringIn" @keydown.meta.enter.stop.prevent="bringIn" />
    <p class="quiet">
      The files stay where they are and are never changed. You can also drop a folder or a .zip on this page.
    </p>
    <template #footer>
      <el-button @click="open = false">
        Cancel
      </el-button>
      <el-button type="primary" :loading="busy" :disabled="path === ''" @click="bringIn">
        Bring in this folder <kbd>Ctrl Enter</kbd>
      </el-button>
    </template>
  </el-dialog>
</template>
