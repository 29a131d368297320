<script setup lang="ts">
import { chosenAlternate, type Pad } from '~~/core/kit/document'
import { coverageOf } from '~~/core/kit/layerEdits'

/** The layers of a pad over velocity 1 to 127: one line each, those that take turns in one; or which alternate is chosen. */
const props = defineProps<{ pad: Pad }>()

const WIDTH = 127
const chosen = computed(() => chosenAlternate(props.pad))
const lines = computed(() => {
  const found = new Map<string, { low: number, high: number, turns: number }>()
  props.pad.layers.forEach(({ lowVelocity: low, highVelocity: high, turn }, i) => {
    const key = turn === null ? `alone ${i}` : `${low}-${high}`
    const known = found.get(key)
    if (known) known.turns++
    else found.set(key, { low, high, turns: 1 })
  })
  return [...found.values()].sort((a, b) => a.low - b.low)
})
const gaps = computed(() => coverageOf(props.pad).gaps)
const label = computed(() => {
  if (chosen.value !== undefined) return `Alternate ${chosen.value + 1} of ${props.pad.layers.length}, chosen by ${props.pad.alternate}`
  const ranges = lines.value.map(line => `${line.low} to ${line.high}${line.turns > 1 ? `, ${line.turns} in turn` : ''}`).join('; ')
  return `Velocities ${ranges}${gaps.value.length > 0 ? '; silent in between' : ''}`
})
const HEIGHT = 18
const THICKEST = 7
const each = computed(() => HEIGHT / Math.max(1, lines.value.length))
const thick = computed(() => Math.min(THICKEST, each.value * 0.76))
</script>

<template>
  <span v-if="chosen !== undefined" class="figure" :title="label">{{ chosen + 1 }}/{{ pad.layers.length }}</span>
  <svg v-else class="strip" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" role="img" :aria-label="label">
    <title>{{ label }}</title>
    <rect v-for="gap in gaps" :key="gap.low" class="gap" :x="gap.low - 1" y="0" :width="gap.high - gap.low + 1" :height="HEIGHT" />
    <template v-for="(line, i) in lines" :key="i">
      <rect class="layer" :x="line.low - 1" :y="i * each + (each - thick) / 2" :width="line.high - line.low + 1" :height="thick" />
      <line v-for="turn in Math.max(0, line.turns - 1)" :key="turn" class="turn" :x1="line.low - 1 + (line.high - line.low + 1) * turn / line.turns" :x2="line.low - 1 + (line.high - line.low + 1) * turn / line.turns" :y1="i * each" :y2="(i + 1) * each" />
    </template>
  </svg>
</template>

<style scoped>
.strip { display: block; width: 100%; height: 18px; }
.layer { fill: color-mix(in srgb, var(--ink) 55%, var(--sheet)); }
.turn { stroke: var(--sheet); stroke-width: 1.5; }
.gap { fill: var(--look); opacity: 0.45; }
</style>
