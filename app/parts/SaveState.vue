<script setup lang="ts">
/** Whether a document is saved, and when it was. */
const { of } = defineProps<{ of: { readonly saveState: 'saved' | 'saving' | 'waiting', readonly savedAt?: Date } }>()

const text = computed(() => {
  if (of.saveState === 'waiting') return 'Not saved: waiting for the server'
  if (of.saveState === 'saving') return 'Saving'
  return of.savedAt ? `Saved ${of.savedAt.toLocaleTimeString('en-GB')}` : ''
})
</script>

<template>
  <span class="quiet save cut" :class="{ look: of.saveState === 'waiting' }" role="status"><slot>{{ text }}</slot></span>
</template>

<style scoped>
.save { min-width: 0; font-size: 12px; }
</style>
