<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { paintWaveform, type WaveformPicture } from '../../composables/useWaveformPainter'
import { useSettings } from '../../stores/settings'

/** A waveform drawn on a canvas of whatever size it is given. */
const props = defineProps<{ picture: WaveformPicture | null, label: string }>()

const settings = useSettings()
const canvas = useTemplateRef('canvas')

function paint(): void {
  if (canvas.value && props.picture) paintWaveform(canvas.value, props.picture)
}

onMounted(paint)
useResizeObserver(canvas, paint)
watch([() => props.picture, () => settings.lamp], paint, { flush: 'post' })
</script>

<template>
  <canvas v-show="picture" ref="canvas" class="waveform" role="img" :aria-label="label" />
</template>

<style scoped>
.waveform { display: block; width: 100%; height: 100%; }
</style>
