<script setup lang="ts">
import type { KeyHint } from '../parts/useKeys'

/** The keys in use in a view, printed where they are used. */
defineProps<{ hints: readonly KeyHint[] }>()
</script>

<template>
  <footer class="foot" aria-label="Keys in this view">
    <span v-for="hint in hints" :key="hint.does" class="hint"><kbd v-for="key in hint.keys" :key="key">{{ key }}</kbd> {{ hint.does }}</span>
  </footer>
</template>

<style scoped>
.foot { display: flex; gap: 11px; overflow: hidden; padding: 4px 12px; border-top: 1px solid var(--rule); color: var(--quiet); font-size: 12px; }
.hint { white-space: nowrap; }
.hint kbd { margin-right: 2px; }
</style>
