<script setup lang="ts">
import { useHeardEdits } from './documents/useHeardEdits'

/** Back and forth in the edits of a document. By themselves, since their words change with each edit. */
const props = defineProps<{ of: { readonly canUndo?: string, readonly canRedo?: string, readonly undo: () => void, readonly redo: () => void } }>()
const heard = useHeardEdits(() => props.of)
</script>

<template>
  <el-button :disabled="!of.canUndo" :title="of.canUndo ? `Undo: ${of.canUndo}` : 'Nothing to undo'" @click="of.undo()">
    Undo
  </el-button>
  <el-button :disabled="!of.canRedo" :title="of.canRedo ? `Redo: ${of.canRedo}` : 'Nothing to redo'" @click="of.redo()">
    Redo
  </el-button>
  <span role="status" class="visually-hidden">{{ heard }}</span>
</template>
