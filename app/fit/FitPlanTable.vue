<script setup lang="ts">
import { Lock } from '@element-plus/icons-vue'
import type { PlanRow } from '~~/core/fit/plan'
import { changesOf, heardAs, rateWords, worstDb } from '~~/core/fit/words'
import { padLabel } from '~~/core/kit/padLabel'
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import { megabytes } from '../parts/useFormat'
import { useFit } from './fit'

/** The plan: each sample with what it is, what it becomes, what that saves, and what it costs. */
const fit = useFit()
const table = useTemplateRef<{ focus: () => void }>('table')

const columns: readonly LedgerColumn[] = [
  { key: 'pad', title: 'Pad', width: 52 },
  { key: 'sound', title: 'Sound', width: 84, grows: true },
  { key: 'from', title: 'From, kHz/bit', width: 156, align: 'right', weight: 1 },
  { key: 'becomes', title: 'To', width: 142, align: 'right' },
  { key: 'saves', title: 'Saves', width: 62, align: 'right', weight: 2 },
  { key: 'costs', title: 'Costs', width: 126 },
]

const HELD = { stereo: 'both sides', length: 'length', bandwidth: 'top', layers: 'layers', pad: 'never out' } as const

interface Shown {
  readonly pad: string
  readonly sound: string
  readonly from: string
  readonly becomes: string
  readonly saves: string
  readonly costs: string
  readonly isLost: boolean
  readonly held: string
}

function shownOf(row: PlanRow): Shown {
  const { kit } = fit.planned!
  const pad = kit.pads[row.padIndex]!
  const { measure, variant } = row
  const sounds = row.unit.layers.map(index => pad.layers[index]!.sound.name)
  const seconds = measure.frames / measure.sampleRate
  const bytes = measure.frames * measure.channels * Math.max(16, measure.sourceBits || 16) / 8
  const changes = changesOf(kit, row)
  const worst = worstDb(changes)
  return {
    pad: padLabel(row.padIndex),
    sound: sounds.join(' + '),
    from: `${rateWords(measure.sampleRate)}/${measure.sourceBits === 32 ? 'float' : measure.sourceBits > 0 ? measure.sourceBits : '–'} ${measure.channels === 1 ? 'mono' : 'stereo'} ${seconds.toFixed(2)} s`,
    becomes: row.state === 'left out' ? 'left out' : !variant ? 'dropped' : `${rateWords(variant.sampleRate)}/${variant.depth} ${variant.channels === 1 ? 'mono' : 'stereo'} ${variant.seconds.toFixed(2)} s`,
    saves: row.sharedWith !== null || !variant ? megabytes(bytes) : bytes - variant.bytes > 999 ? megabytes(bytes - variant.bytes) : '–',
    costs: row.state === 'left out' ? 'all of it' : row.by ? `stand-in ${row.by.distanceDb.toFixed(1)} dB off` : worst === null ? changes.length > 0 ? 'nothing heard' : '–' : `${worst.toFixed(0)} dB, ${heardAs(worst)}`,
    isLost: row.state !== 'kept',
    held: heldOf(row.padIndex),
  }
}

/** What is held of a pad, and what it is worth, in words. */
function heldOf(padIndex: number): string {
  const importance = fit.wishes.importance[padIndex]
  return [...(Object.keys(HELD) as (keyof typeof HELD)[]).filter(what => fit.holdOf(padIndex)[what]).map(what => HELD[what]), ...importance && importance !== 'normal' ? [`${importance} worth`] : []].join(', ')
}

/** Rows are worked out as they come into sight, and anew when something was said of pads. */
let shown = new WeakMap<PlanRow, Shown>()
const version = ref(0)
watch([() => fit.wishes, () => fit.plan], () => {
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
      <template v-else-if="column === 'pad'">
        <span class="figure">{{ row.pad }}</span>
        <el-icon v-if="row.held" class="held" role="img" :title="`Held: ${row.held}`" :aria-label="`held: ${row.held}`">
          <Lock />
        </el-icon>
      </template>
      <span v-else class="figure cut" :class="{ lost: column === 'becomes' && row.isLost }" :title="row[column as 'from']">{{ row[column as 'from'] }}</span>
    </template>
  </LedgerTable>
</template>

<style scoped>
.figure { font-size: 11px; }
.held { margin-left: 3px; color: var(--accent); font-size: 12px; vertical-align: -1px; }
</style>
