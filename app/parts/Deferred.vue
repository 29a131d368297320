<script setup lang="ts">
import { defer } from './useDeferred'

/**
 * A part of a view that comes a moment after what stands before it, so that no view takes a single long task to open. What is
 * around it keeps the room for it, and has the keys.
 */
const isHere = ref(false)
onUnmounted(defer(() => isHere.value = true))
</script>

<template>
  <slot v-if="isHere" />
</template>
