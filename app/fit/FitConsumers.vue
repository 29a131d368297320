<script setup lang="ts">
import { padLabel } from '~~/core/kit/padLabel'
import { bytesWords } from '~~/core/fit/words'
import { mixedColours, useThemeColours } from '../parts/useThemeColours'
import { useFit } from './fit'
import { useSettings } from '../parts/settings'

/** The pads that take most of the target, before and after. */
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'))
const MOST = 16

const fit = useFit()
const settings = useSettings()
const colours = useThemeColours()
const by = ref<'seconds' | 'bytes'>(fit.target.limits.bytes !== null && fit.target.limits.seconds === null ? 'bytes' : 'seconds')

const pads = computed(() => {
  const found = new Map<number, { name: string, before: number, after: number }>()
  for (const row of fit.plan?.rows ?? []) {
    const held = found.get(row.padIndex) ?? { name: `${padLabel(row.padIndex)} ${fit.planned!.kit.pads[row.padIndex]!.name}`, before: 0, after: 0 }
    const { frames, sampleRate, channels, sourceBits } = row.measure
    held.before += by.value === 'seconds' ? frames / sampleRate : frames * channels * Math.max(16, sourceBits || 16) / 8
    if (row.state === 'kept' && row.sharedWith === null) held.after += row.variant![by.value]
    found.set(row.padIndex, held)
  }
  return [...found.values()].toSorted((a, b) => b.before - a.before).slice(0, MOST)
})

const say = (value: number) => by.value === 'seconds' ? `${value.toFixed(2)} s` : bytesWords(value, fit.target.limits.unit)
const series = computed(() => [{ name: 'As it is', data: pads.value.map(pad => pad.before) }, { name: 'Fitted', data: pads.value.map(pad => pad.after) }])
const options = computed(() => {
  const { ink, quiet, rule, sheet, accent } = colours.value
  return {
    chart: { type: 'bar', toolbar: { show: false }, animations: { enabled: false }, fontFamily: 'Source Sans 3', foreColor: quiet, background: 'transparent' },
    plotOptions: { bar: { horizontal: true, barHeight: '70%' } },
    colors: [mixedColours(ink, sheet, 0.45), accent],
    dataLabels: { enabled: false },
    xaxis: { categories: pads.value.map(pad => pad.name), labels: { formatter: (value: string) => say(Number(value)) }, tickAmount: 3, axisBorder: { color: rule }, axisTicks: { color: rule } },
    yaxis: { labels: { maxWidth: 130, style: { colors: ink, fontSize: '12px' } } },
    grid: { borderColor: rule },
    legend: { position: 'top', horizontalAlign: 'left', labels: { colors: ink }, markers: { size: 6, shape: 'square' } },
    tooltip: { theme: settings.lamp ? 'dark' : 'light', shared: true, intersect: false, y: { formatter: say } },
    states: { hover: { filter: { type: 'none' } } },
  }
})
</script>

<template>
  <div class="takes">
    <el-radio-group v-model="by" size="small" aria-label="What is counted">
      <el-radio value="seconds">
        Audio
      </el-radio>
      <el-radio value="bytes">
        Size
      </el-radio>
    </el-radio-group>
    <p v-if="pads.length === 0" class="quiet">
      There is nothing to count yet.
    </p>
    <Chart v-else type="bar" :height="Math.max(160, pads.length * 30 + 80)" :options="options" :series="series" />
    <table class="visually-hidden">
      <caption>Pads that take most</caption>
      <tbody>
        <tr v-for="pad in pads" :key="pad.name">
          <th>{{ pad.name }}</th><td>{{ say(pad.before) }}</td><td>{{ say(pad.after) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.takes { padding: 8px 12px; overflow-y: auto; }
</style>
