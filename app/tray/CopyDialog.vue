<script setup lang="ts">
/** Names the folder that copies of the tray's sounds go into. */
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ copy: [folder: string] }>()

const path = ref('')
const browser = useTemplateRef<{ focus: () => void }>('browser')
</script>

<template>
  <el-dialog v-model="open" title="Copy the tray to a folder" width="620" append-to-body destroy-on-close @opened="browser?.focus()">
    <FolderBrowser ref="browser" v-model="path" is-to-write />
    <p class="quiet">
      The copies are numbered in the order of the tray. Existing files are not overwritten.
    </p>
    <template #footer>
      <el-button @click="open = false">
        Cancel
      </el-button>
      <el-button type="primary" :disabled="path === ''" @click="emit('copy', path)">
        Copy into this folder
      </el-button>
    </template>
  </el-dialog>
</template>
