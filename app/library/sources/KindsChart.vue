<script setup lang="ts">
import { LENGTHS, libraryRoutes, type KindByLength } from '~~/contract/library'
import { kindLabel } from '~~/core/search/kinds'
import { api } from '../../parts/useApi'
import { counted, whole } from '../../parts/useFormat'
import { saying } from '../../parts/useSay'
import { mixedColours, useThemeColours } from '../../parts/useThemeColours'
import { useLibrary } from '../library'
import { newest } from '../../parts/newest'
import { useSettings } from '../../parts/settings'

/** The library by kind and by how long its sounds are, as bars. */
const Chart = defineAsyncComponent(() => import('vue3-apexcharts'))

const ALL = 0
const library = useLibrary()
const settings = useSettings()
const colours = useThemeColours()
const source = ref(ALL)
const kinds = shallowRef<readonly KindByLength[]>([])

const load = newest(() => saying(() => api(libraryRoutes.kinds, { query: { source: source.value === ALL ? undefined : source.value } })), found => kinds.value = found ?? [])
watch(source, () => load(), { immediate: true })

const labels = ['up to 0.25 s', ...LENGTHS.slice(1).map((end, i) => `${LENGTHS[i]} to ${end} s`), `over ${LENGTHS.at(-1)} s`]
const wordOf = (kind: string) => kind === 'none' ? 'Not known' : kindLabel(kind)

const series = computed(() => labels.map((name, i) => ({ name, data: kinds.value.map(entry => entry.counts[i] ?? 0) })))

const options = computed(() => {
  const { ink, quiet, rule, sheet } = colours.value
  return {
    chart: { type: 'bar', stacked: true, toolbar: { show: false }, animations: { enabled: false }, fontFamily: 'Source Sans 3', foreColor: quiet, background: 'transparent' },
    plotOptions: { bar: { horizontal: true, barHeight: '72%' } },
    // One colour in steps: lengths are told by depth, since colour stands for state here.
    colors: labels.map((_, i) => mixedColours(ink, sheet, 0.45 + 0.55 * i / (labels.length - 1))),
    stroke: { width: 1, colors: [sheet] },
    dataLabels: { enabled: false },
    xaxis: { categories: kinds.value.map(entry => wordOf(entry.kind)), labels: { formatter: (value: string) => whole(Math.round(Number(value))) }, axisBorder: { color: rule }, axisTicks: { color: rule } },
    yaxis: { labels: { style: { colors: ink, fontSize: '13px' } } },
    grid: { borderColor: rule },
    legend: { position: 'top', horizontalAlign: 'left', labels: { colors: ink }, markers: { size: 6, shape: 'square' } },
    tooltip: { theme: settings.lamp ? 'dark' : 'light', shared: true, intersect: false, y: { formatter: (value: number) => counted(value, 'sound') } },
    states: { hover: { filter: { type: 'none' } } },
  }
})
</script>

<template>
  <div>
    <div class="bar">
      <el-select v-model="source" aria-label="Source of the chart" class="source">
        <el-option :value="ALL" label="The whole library" />
        <el-option v-for="entry in library.sources" :key="entry.id" :value="entry.id" :label="entry.name" />
      </el-select>
      <span class="quiet">Sounds by kind, and by how long they sound</span>
    </div>
    <p v-if="kinds.length === 0" class="quiet">
      There are no sounds to count yet.
    </p>
    <Chart v-else type="bar" :height="Math.max(220, kinds.length * 30 + 90)" :options="options" :series="series" />
    <table class="visually-hidden">
      <caption>Sounds by kind and length</caption>
      <tbody>
        <tr v-for="entry in kinds" :key="entry.kind">
          <th>{{ wordOf(entry.kind) }}</th><td v-for="(count, i) in entry.counts" :key="i">
            {{ labels[i] }}: {{ count }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.bar { display: flex; align-items: center; gap: 12px; }
.source { width: 240px; }
</style>
