<script setup lang="ts">
/** Back and forth in the edits of a document. By themselves, since their words change with each edit. */
defineProps<{ of: { readonly canUndo?: string, readonly canRedo?: string, readonly undo: () => void, readonly redo: () => void } }>()
</script>

<template>
  <el-button :disabled="!of.canUndo" :title="of.canUndo ? `Undo: ${of.canUndo}` : 'Nothing to undo'" @click="of.undo()">
    Undo
  </el-button>
  <el-button :disabled="!of.canRedo" :title="of.canRedo ? `Redo: ${of.canRedo}` : 'Nothing to redo'" @click="of.redo()">
    Redo
  </el-button>
</template>
