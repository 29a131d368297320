<script setup lang="ts">
/** An average spectrum as a filled outline, 60 dB high. */
const { bands } = defineProps<{ bands: Float32Array, label: string }>()
const RANGE_DB = 60

const path = computed(() => {
  const height = (db: number) => (60 - Math.max(0, 1 + db / RANGE_DB) * 60).toFixed(1)
  const points = [...bands].map((db, i) => `${(i * 100 / (bands.length - 1)).toFixed(1)} ${height(db)}`)
  return `M0 60 L${points.join(' L')} L100 60 Z`
})
</script>

<template>
  <svg viewBox="0 0 100 60" preserveAspectRatio="none" role="img" :aria-label="label"><path :d="path" /></svg>
</template>

<style scoped>
svg { display: block; width: 100%; height: 100%; }
path { fill: var(--ink); }
</style>
