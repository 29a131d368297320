<script setup lang="ts">
import { MOST_BARS } from '~~/core/groove/document'
import { setPattern } from '~~/core/groove/edits'
import { GRID_FEELS, GRID_VALUES, type Grid } from '~~/core/groove/quantize'
import { useGrooves } from './grooves'
import { useKit } from '../bench'
import { useSettings } from '../parts/settings'

/** Metre, bars and swing of the pattern, the grid that it is drawn on, and the kit that plays it. */
const grooves = useGrooves()
const kit = useKit()
const settings = useSettings()
const UNITS = [2, 4, 8, 16]

const metre = computed(() => grooves.pattern.metre)
const swing = computed(() => grooves.pattern.swing)

function setGrid(change: Partial<Grid>): void {
  settings.groove = { ...settings.groove, grid: { ...settings.groove.grid, ...change } }
}
function setMetre(change: Partial<typeof metre.value>): void {
  grooves.edit('Metre', pattern => setPattern(pattern, { metre: { ...metre.value, ...change } }))
}
const setBars = (bars: number, gesture: string) => grooves.edit('Bars', pattern => setPattern(pattern, { bars }), gesture)
const setSwing = (change: Partial<typeof swing.value>, gesture?: string) => grooves.edit('Swing', pattern => setPattern(pattern, { swing: { ...swing.value, ...change } }), gesture)
</script>

<template>
  <div class="banks tools">
    <label>Metre
      <el-input-number :model-value="metre.beats" size="small" :min="1" :max="32" :controls="false" class="few" aria-label="Beats of a bar" @update:model-value="$event && setMetre({ beats: $event })" />
      /
      <el-select :model-value="metre.unit" size="small" class="few" aria-label="Note value of a beat" @update:model-value="setMetre({ unit: $event })"><el-option v-for="unit in UNITS" :key="unit" :value="unit" :label="String(unit)" /></el-select>
    </label>
    <Deferred>
      <NumberField class="number" label="Bars" :digits="0" :values="[grooves.pattern.bars]" :min="1" :max="MOST_BARS" :step="1" @set="setBars" @move="(by, gesture) => setBars(grooves.pattern.bars + by, gesture)" />
      <NumberField class="number" label="Swing" unit="%" :values="[swing.percent]" :min="50" :max="75" :step="0.5" :reset="50" @set="(percent, gesture) => setSwing({ percent }, gesture)" @move="(by, gesture) => setSwing({ percent: swing.percent + by }, gesture)" />
      <el-select :model-value="swing.step" size="small" class="of" aria-label="Steps that swing" @update:model-value="setSwing({ step: $event })">
        <el-option :value="8" label="of 8ths" /><el-option :value="16" label="of 16ths" />
      </el-select>
      <span class="rule" />
    </Deferred>
    <Deferred>
      <label>Grid
        <el-select :model-value="settings.groove.grid.value" size="small" class="value" aria-label="Note value of the grid" @update:model-value="setGrid({ value: $event })"><el-option v-for="value in GRID_VALUES" :key="value" :value="value" :label="`1/${value}`" /></el-select>
        <el-select :model-value="settings.groove.grid.feel" size="small" class="feel" aria-label="Feel of the grid" @update:model-value="setGrid({ feel: $event })"><el-option v-for="feel in GRID_FEELS" :key="feel" :value="feel" :label="feel" /></el-select>
      </label>
    </Deferred>
    <span class="quiet cut on" :title="`Played on ${kit.kit.name}`">on {{ kit.kit.name }}</span>
    <label class="follow"><el-checkbox :model-value="settings.groove.follows" size="small" @update:model-value="settings.groove = { ...settings.groove, follows: Boolean($event) }">follow</el-checkbox></label>
  </div>
</template>

<style scoped>
.tools { display: flex; align-items: center; gap: 8px; min-height: 32px; padding: 3px 12px; border-bottom: 1px solid var(--rule); font-size: 12px; overflow-x: auto; scrollbar-width: thin; }
.tools > * { flex: none; }
.tools label { display: flex; align-items: center; gap: 4px; white-space: nowrap; }
.few { width: 44px; }
.number { width: 118px; grid-template-columns: minmax(0, 1fr) 48px 16px; }
.of { width: 78px; }
.value { width: 62px; }
.feel { width: 82px; }
.tools > .on { flex: 1; min-width: 0; text-align: right; }
.rule { width: 1px; height: 18px; background: var(--rule); }
</style>
