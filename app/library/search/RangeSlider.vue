<script setup lang="ts">
import type { Histogram } from '~~/core/search/catalogue/facets'
import { counted } from '../../parts/useFormat'

/** A range of a figure, over bars of how many sounds there are. */
const props = defineProps<{
  title: string
  bars: Histogram
  range: { readonly low?: number, readonly high?: number }
  label: (value: number) => string
}>()
const emit = defineEmits<{ change: [low: number | undefined, high: number | undefined] }>()

const last = computed(() => props.bars.edges.length - 1)
const most = computed(() => Math.max(1, ...props.bars.counts))
const nearest = (value: number) => props.bars.edges.reduce((best, edge, i) => Math.abs(edge - value) < Math.abs(props.bars.edges[best]! - value) ? i : best, 0)

const ends = ref<[number, number]>([0, 0])
watch(() => [props.range.low, props.range.high, last.value], () => {
  ends.value = [props.range.low === undefined ? 0 : nearest(props.range.low), props.range.high === undefined ? last.value : nearest(props.range.high)]
}, { immediate: true })

function change(): void {
  const [low, high] = ends.value
  emit('change', low === 0 ? undefined : props.bars.edges[low], high === last.value ? undefined : props.bars.edges[high])
}

const summary = computed(() => {
  const [low, high] = ends.value
  const from = props.label(props.bars.edges[low]!)
  const to = props.label(props.bars.edges[high]!)
  if (low === 0 && high === last.value) return 'any'
  return low === 0 ? `up to ${to}` : high === last.value ? `from ${from}` : `${from} to ${to}`
})
</script>

<template>
  <div class="range">
    <svg viewBox="0 0 100 24" preserveAspectRatio="none" role="img" :aria-label="`${title}: ${counted(bars.counts.reduce((sum, count) => sum + count, 0), 'sound')} in ${counted(bars.counts.length, 'bar')}`">
      <rect v-for="(count, i) in bars.counts" :key="i" :x="i * 100 / bars.counts.length" :width="100 / bars.counts.length - 0.6" :y="24 - 23 * Math.sqrt(count / most) - (count > 0 ? 1 : 0)" :height="23 * Math.sqrt(count / most) + (count > 0 ? 1 : 0)" :class="{ out: i < ends[0] || i >= ends[1] }" />
    </svg>
    <el-slider v-model="ends" range :min="0" :max="last" size="small" :show-tooltip="false" :aria-label="title" :range-start-label="`${title}, lower end`" :range-end-label="`${title}, upper end`" :format-value-text="(value: number) => label(bars.edges[value]!)" @change="change" />
    <span class="figure quiet in-words">{{ summary }}</span>
  </div>
</template>

<style scoped>
.range { padding: 2px 6px 0; }
svg { display: block; width: 100%; height: 24px; }
rect { fill: var(--ink); }
rect.out { fill: var(--rule); }
.el-slider { --el-slider-height: 2px; --el-slider-button-size: 12px; height: 14px; }
.in-words { display: block; font-size: 11px; text-align: right; }
</style>
