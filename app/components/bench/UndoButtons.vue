<script setup lang="ts">
import { useKit } from '../../stores/kit'

/** Back and forth in the edits of the kit. By themselves, since their words change with each edit. */
const kit = useKit()
</script>

<template>
  <el-button :disabled="!kit.canUndo" :title="kit.canUndo ? `Undo: ${kit.canUndo}` : 'Nothing to undo'" @click="kit.undo()">
    Undo
  </el-button>
  <el-button :disabled="!kit.canRedo" :title="kit.canRedo ? `Redo: ${kit.canRedo}` : 'Nothing to redo'" @click="kit.redo()">
    Redo
  </el-button>
</template>
