<script setup lang="ts">
import { PATH_MIDDLE, pathOf, type WaveformPicture } from './useWaveformPainter'

/** A small waveform for a row of a list. A path costs the page a third of what a canvas of its own does. */
defineProps<{ picture: WaveformPicture, label: string }>()
</script>

<template>
  <svg class="wave-thumb" role="img" :aria-label="label" :viewBox="`0 0 ${picture.outline.length / 2} ${PATH_MIDDLE * 2}`" preserveAspectRatio="none">
    <path :d="pathOf(picture)" />
  </svg>
</template>

<style scoped>
.wave-thumb { display: block; width: 100%; height: 24px; fill: var(--ink); }
</style>
