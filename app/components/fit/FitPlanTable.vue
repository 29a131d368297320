<script setup lang="ts">
import { slotLabel } from '~~/core/fit/target'
import type { PlanRow } from '~~/core/fit/plan'
import { changesOf, heardAs, rateWords, worstDb } from '~~/core/fit/words'
import { padLabel } from '~~/core/kit/padLabel'
import type { LedgerColumn } from '../common/LedgerTable.vue'
import { megabytes } from '../../composables/useFormat'
import { useFit } from '../../stores/fit'

/** The plan: each sample with what it is, what it becomes, what that saves, and what it costs. */
const fit = useFit()
const table = useTemplateRef<{ focus: () => void }>('table')

const columns: readonly LedgerColumn[] = [
  { key: 'pad', title: 'Pad', width: 46 },
  { key: 'to', title: 'Goes to', width: 58 },
  { key: 'sound', title: 'Sound', width: 130, grows: true },
  { key: 'from', title: 'From', width: 172, align: 'right' },
  { key: 'becomes', title: 'To', width: 184, align: 'right' },
  { key: 'saves', title: 'Saves', width: 74, align: 'right' },
  { key: 'costs', title: 'Costs', width: 148 },
  { key: 'held', title: 'Held', width: 104 },
]

const HELD = { stereo: 'both sides', length: 'length', bandwidth: 'top', layers: 'layers', pad: 'never out' } as const

const places = computed(() => new Map(fit.arranged.map(place => [place.padIndex, place])))

interface Shown {
  readonly pad: string
  readonly to: string
  readonly sound: string
  readonly from: string
  readonly becomes: string
  readonly saves: string
  readonly costs: string
  readonly isLost: boolean
  readonly held: string
}

function shownOf(row: PlanRow): Shown {
  const { kit, target } = fit.planned!
  const pad = kit.pads[row.padIndex]!
  const { measure, variant } = row
  const sounds = row.unit.layers.map(index => pad.layers[index]!.sound.name)
  const place = places.value.get(row.padIndex)
  const seconds = measure.frames / measure.sampleRate
  const bytes = measure.frames * measure.channels * Math.max(16, measure.sourceBits || 16) / 8
  const changes = changesOf(kit, row)
  const worst = worstDb(changes)
  const importance = fit.wishes.importance[row.padIndex]
  return {
    pad: padLabel(row.padIndex),
    to: place && row.state !== 'left out' ? slotLabel(target, place.slot) : row.state === 'left out' ? '–' : '',
    sound: sounds.join(' + '),
    from: `${rateWords(measure.sampleRate)} kHz ${measure.sourceBits === 32 ? 'float' : measure.sourceBits > 0 ? measure.sourceBits : ''} ${measure.channels === 1 ? 'mono' : 'stereo'} ${seconds.toFixed(2)} s`,
    becomes: row.state === 'left out' ? 'left out' : !variant ? 'dropped' : `${rateWords(variant.sampleRate)} kHz ${variant.depth} ${variant.channels === 1 ? 'mono' : 'stereo'} ${variant.seconds.toFixed(2)} s`,
    saves: row.sharedWith !== null || !variant ? megabytes(bytes) : bytes - variant.bytes > 999 ? megabytes(bytes - variant.bytes) : '–',
    costs: row.state === 'left out' ? 'all of it' : row.by ? `${row.by.distanceDb.toFixed(1)} dB from its stand-in` : worst === null ? changes.length > 0 ? 'nothing heard' : '–' : `${worst.toFixed(0)} dB, ${heardAs(worst)}`,
    isLost: row.state !== 'kept',
    held: [...(Object.keys(HELD) as (keyof typeof HELD)[]).filter(what => fit.holdOf(row.padIndex)[what]).map(what => HELD[what]), ...importance && importance !== 'normal' ? [`${importance} worth`] : []].join(', '),
  }
}

/** Rows are worked out as they come into sight, and anew when something was said of pads. */
let shown = new WeakMap<PlanRow, Shown>()
const version = ref(0)
watch([() => fit.wishes, places, () => fit.plan], () => {
  shown = new WeakMap()
  version.value++
})

function rowAt(index: number): Shown | undefined {
  const row = fit.plan?.rows[index]
  if (!row || !fit.planned) return undefined
  const known = shown.get(row) ?? shownOf(row)
  shown.set(row, known)
  return known
}

function press(index: number): void {
  fit.cursor = index
  table.value?.focus()
}

defineExpose({ focus: () => table.value?.focus() })
</script>

<template>
  <LedgerTable ref="table" label="Plan" :columns="columns" :total="fit.plan?.rows.length ?? 0" :row-at="rowAt" :cursor="fit.cursor" :version="version" @press="press">
    <template #cell="{ column, row }">
      <span v-if="column === 'sound'" class="cut" :title="row.sound" :class="{ lost: row.isLost }">{{ row.sound }}</span>
      <span v-else-if="column === 'costs'" class="cut" :title="row.costs" :class="{ lost: row.isLost }">{{ row.costs }}</span>
      <span v-else-if="column === 'held'" class="cut" :title="row.held">{{ row.held }}</span>
      <span v-else class="figure cut" :class="{ lost: column === 'becomes' && row.isLost }" :title="row[column as 'pad']">{{ row[column as 'pad'] }}</span>
    </template>
  </LedgerTable>
</template>
