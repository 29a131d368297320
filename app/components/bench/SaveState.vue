<script setup lang="ts">
import { useKit } from '../../stores/kit'

/** Whether the kit is saved, and when it was. */
const kit = useKit()
const text = computed(() => {
  if (kit.saveState === 'waiting') return 'Not saved yet: waits for the server'
  if (kit.saveState === 'saving') return 'Saving'
  return kit.savedAt ? `Saved ${kit.savedAt.toLocaleTimeString('en-GB')}` : ''
})
</script>

<template>
  <span class="quiet save cut" :class="{ look: kit.saveState === 'waiting' }" role="status">{{ text }}</span>
</template>

<style scoped>
.save { min-width: 0; font-size: 12px; }
</style>
