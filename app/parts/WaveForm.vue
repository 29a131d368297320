<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { paintWaveform, type WaveformPicture } from './useWaveformPainter'
import { useThemeColours } from './useThemeColours'

/**
 * A waveform of whatever size it is given. What was played lies over it as a second drawing that is only uncovered,
 * so that a sound that plays draws nothing anew.
 */
const props = defineProps<{ picture: WaveformPicture | null, label: string, played?: number | null }>()

const colours = useThemeColours()
const canvas = useTemplateRef('canvas')
const playedCanvas = useTemplateRef('playedCanvas')
const width = ref(0)
const height = ref(0)
const showsPlayed = computed(() => typeof props.played === 'number')
const covered = computed(() => `inset(0 ${((1 - (props.played ?? 0)) * 100).toFixed(2)}% 0 0)`)

// Read from the observer alone: to ask an element for its size would hold up the page for each row of a list.
useResizeObserver(canvas, ([entry]) => {
  if (!entry) return
  width.value = entry.contentRect.width
  height.value = entry.contentRect.height
})

watch([() => props.picture, width, height, colours, showsPlayed], () => {
  if (!props.picture || width.value === 0) return
  const size = { width: width.value, height: height.value }
  if (canvas.value) paintWaveform(canvas.value, props.picture, size, colours.value.ink, colours.value.rule)
  if (playedCanvas.value && showsPlayed.value) paintWaveform(playedCanvas.value, props.picture, size, colours.value.accent, colours.value.rule)
}, { flush: 'post' })
</script>

<template>
  <span v-show="picture" class="waveform" role="img" :aria-label="label">
    <canvas ref="canvas" />
    <canvas v-if="played !== undefined" v-show="showsPlayed" ref="playedCanvas" class="played" :style="{ clipPath: covered }" />
  </span>
</template>

<style scoped>
.waveform { display: block; position: relative; width: 100%; height: 100%; }
canvas { position: absolute; inset: 0; width: 100%; height: 100%; }
</style>
