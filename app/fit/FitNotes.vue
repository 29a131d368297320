<script setup lang="ts">
import { counted } from '~~/core/wording'
import { ARRANGING, type Arranging } from '~~/core/fit/arrange'
import { slotLabel } from '~~/core/fit/target'
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { useFit } from './fit'

/** Where each pad goes on the target, and on which note it lies there; the octaves are named as the target's maker does. */
const fit = useFit()
const WAYS: Readonly<Record<Arranging, string>> = { note: 'by their notes', role: 'by their roles', position: 'in their order' }
const moved = computed(() => fit.arranged.filter(place => place.fromNote !== place.toNote).length)
</script>

<template>
  <div class="notes">
    <label class="way">Pads go
      <el-select size="small" :model-value="fit.way" aria-label="Pad order" @update:model-value="fit.choose({ way: $event })">
        <el-option v-for="way in ARRANGING" :key="way" :value="way" :label="WAYS[way]" />
      </el-select>
    </label>
    <p class="quiet">
      Middle C is {{ fit.target.middleC }} on {{ fit.target.name }}. {{ moved === 0 ? 'Every pad keeps its note.' : `${moved} of ${counted(fit.arranged.length, 'pad')} ${moved === 1 ? 'changes its' : 'change their'} note.` }}
    </p>
    <table>
      <thead><tr><th>Pad</th><th>From</th><th>To</th></tr></thead>
      <tbody>
        <tr v-for="place in fit.arranged" :key="place.padIndex" :class="{ moved: place.fromNote !== place.toNote }">
          <td class="cut name" :title="fit.planned!.kit.pads[place.padIndex]!.name"><span class="figure">{{ padLabel(place.padIndex) }}</span> {{ fit.planned!.kit.pads[place.padIndex]!.name }}</td>
          <td class="figure">{{ noteLabel(place.fromNote, fit.target.middleC) }}</td>
          <td class="figure">{{ slotLabel(fit.target, place.slot) }}, {{ noteLabel(place.toNote, fit.target.middleC) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.notes { padding: 8px 12px; overflow-y: auto; font-size: 12px; }
.notes p { margin: 6px 0; }
.way { display: flex; align-items: center; gap: 8px; }
.way .el-select { width: 150px; }
table { width: 100%; border-collapse: collapse; table-layout: fixed; }
th { text-align: left; color: var(--quiet); font-weight: 400; }
td, th { height: 24px; padding: 0 4px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
th:nth-child(2) { width: 62px; } th:nth-child(3) { width: 94px; }
td.figure { font-size: 11px; }
.name { max-width: 0; }
.moved td:last-child { font-weight: 600; color: var(--accent); }
</style>
