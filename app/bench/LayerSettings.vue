<script setup lang="ts">
import type { Envelope, Filter, Layer, NoteRange } from '~~/core/kit/document'
import { setLayer, type LayerSettings } from '~~/core/kit/edits'
import { usualRange } from '~~/core/kit/noteEdits'
import { padLabel } from '~~/core/kit/padLabel'
import { settingsOf } from '~~/core/kit/voices'
import { useKit } from './kit'

/** Settings of one layer that replace those of its pad: pan, envelope, filter, notes; and how often chance picks it. */
const props = defineProps<{ index: number }>()
const kit = useKit()
const layer = computed(() => kit.pad.layers[props.index])
const FILTERS = ['low-pass', 'high-pass', 'band-pass'] as const
const FIRST_FILTER: Filter = { type: 'low-pass', cutoffHz: 4000, resonanceDb: 0 }
const FIRST_DECAY_SECONDS = 0.3

function set(change: LayerSettings, label: string): void {
  kit.edit(`${label} of layer ${props.index + 1} of ${padLabel(kit.padIndex)}`, state => setLayer(state, kit.padIndex, props.index, change), `${label} ${props.index} ${kit.padIndex}`)
}

interface Owned {
  readonly key: 'pan' | 'envelope' | 'filter' | 'notes'
  readonly label: string
  /** The value it starts with: what is heard now. */
  readonly first: (own: Layer) => LayerSettings
}
const OWNED: readonly Owned[] = [
  { key: 'pan', label: 'Pan', first: own => ({ pan: settingsOf(kit.pad, own).pan }) },
  { key: 'envelope', label: 'Envelope', first: own => ({ envelope: settingsOf(kit.pad, own).envelope }) },
  { key: 'filter', label: 'Filter', first: own => ({ filter: settingsOf(kit.pad, own).filter ?? FIRST_FILTER }) },
  { key: 'notes', label: 'Notes', first: () => ({ notes: kit.pad.range ?? usualRange(kit.pad) }) },
]

function own({ key, label, first }: Owned, isOn: boolean): void {
  if (layer.value) set(isOn ? first(layer.value) : { [key]: null }, label)
}

const setEnvelope = (change: Partial<Envelope>) => layer.value?.envelope && set({ envelope: { ...layer.value.envelope, ...change } }, 'Envelope')
const setFilter = (change: Partial<Filter>) => layer.value?.filter && set({ filter: { ...layer.value.filter, ...change } }, 'Filter')
function setNotes(change: Partial<NoteRange>): void {
  if (!layer.value?.notes) return
  const notes = { ...layer.value.notes, ...change }
  set({ notes: { ...notes, low: Math.min(notes.low, notes.high), high: Math.max(notes.low, notes.high) } }, 'Notes')
}
function setChance(change: Partial<NonNullable<Layer['chance']>>): void {
  const chance = { low: 0, high: 1, ...layer.value?.chance, ...change }
  if (chance.low < chance.high) set({ chance: chance.low === 0 && chance.high === 1 ? null : chance }, 'Chance')
}
const milliseconds = (value: number | undefined) => Math.max(0, (value ?? 0) / 1000)
</script>

<template>
  <div v-if="layer" class="own" role="group" :aria-label="`Settings of layer ${index + 1} only`">
    <span class="cut title" :title="layer.sound.name">Layer {{ index + 1 }} only</span>
    <div v-for="one in OWNED" :key="one.key" class="part">
      <label class="choice"><el-checkbox size="small" :model-value="layer[one.key] !== null" :aria-label="`${one.label} of its own`" @update:model-value="own(one, Boolean($event))" />{{ one.label }}</label>
      <template v-if="one.key === 'pan' && layer.pan !== null">
        <el-input-number size="small" :controls="false" :min="-100" :max="100" :precision="0" :model-value="Math.round(layer.pan * 100)" aria-label="Pan of the layer in per cent" @update:model-value="set({ pan: ($event ?? 0) / 100 }, 'Pan')" /><span class="quiet">%</span>
      </template>
      <template v-else-if="one.key === 'envelope' && layer.envelope">
        <span class="quiet">attack</span><el-input-number size="small" :controls="false" :min="0" :max="10000" :precision="0" :model-value="layer.envelope.attackSeconds * 1000" aria-label="Attack of the layer in milliseconds" @update:model-value="setEnvelope({ attackSeconds: milliseconds($event) })" />
        <label class="choice"><el-checkbox size="small" :model-value="layer.envelope.decaySeconds !== null" aria-label="The layer decays" @update:model-value="setEnvelope({ decaySeconds: $event ? FIRST_DECAY_SECONDS : null })" />decays</label>
        <el-input-number v-if="layer.envelope.decaySeconds !== null" size="small" :controls="false" :min="1" :max="60000" :precision="0" :model-value="layer.envelope.decaySeconds * 1000" aria-label="Decay of the layer in milliseconds" @update:model-value="setEnvelope({ decaySeconds: Math.max(0.001, milliseconds($event)) })" />
        <span class="quiet">hold</span><el-input-number size="small" :controls="false" :min="0" :max="30000" :precision="0" :model-value="layer.envelope.holdSeconds * 1000" aria-label="Hold of the layer in milliseconds" @update:model-value="setEnvelope({ holdSeconds: milliseconds($event) })" />
        <template v-if="kit.pad.play === 'gated'">
          <span class="quiet">release</span><el-input-number size="small" :controls="false" :min="1" :max="60000" :precision="0" :model-value="layer.envelope.releaseSeconds * 1000" aria-label="Release of the layer in milliseconds" @update:model-value="setEnvelope({ releaseSeconds: Math.max(0.001, milliseconds($event)) })" />
        </template>
        <span class="quiet">ms</span>
      </template>
      <template v-else-if="one.key === 'filter' && layer.filter">
        <el-select size="small" class="type" :model-value="layer.filter.type" aria-label="Filter of the layer" @update:model-value="setFilter({ type: $event })">
          <el-option v-for="type in FILTERS" :key="type" :value="type" :label="type" />
        </el-select>
        <el-input-number size="small" :controls="false" :min="20" :max="20000" :precision="0" :model-value="layer.filter.cutoffHz" aria-label="Cutoff of the layer in hertz" @update:model-value="setFilter({ cutoffHz: $event ?? FIRST_FILTER.cutoffHz })" /><span class="quiet">Hz</span>
        <el-input-number size="small" class="short" :controls="false" :min="0" :max="30" :precision="1" :model-value="layer.filter.resonanceDb" aria-label="Resonance of the layer in decibels" @update:model-value="setFilter({ resonanceDb: $event ?? 0 })" /><span class="quiet">dB</span>
      </template>
      <template v-else-if="one.key === 'notes' && layer.notes">
        <el-input-number size="small" class="short" :controls="false" :min="0" :max="127" :precision="0" :model-value="layer.notes.low" aria-label="Lowest note of the layer" @update:model-value="setNotes({ low: $event ?? 0 })" />–<el-input-number size="small" class="short" :controls="false" :min="0" :max="127" :precision="0" :model-value="layer.notes.high" aria-label="Highest note of the layer" @update:model-value="setNotes({ high: $event ?? 127 })" />
        <span class="quiet">root</span><el-input-number size="small" class="short" :controls="false" :min="0" :max="127" :precision="0" :model-value="layer.notes.root" aria-label="Root note of the layer" @update:model-value="setNotes({ root: $event ?? 60 })" />
        <el-input-number size="small" :controls="false" :min="-1200" :max="1200" :precision="0" :model-value="layer.notes.trackCents" aria-label="Cents a key of the layer" @update:model-value="setNotes({ trackCents: $event ?? 100 })" /><span class="quiet">ct a key</span>
      </template>
    </div>
    <div class="part">
      <span>Chance</span>
      <el-input-number size="small" class="short" :controls="false" :min="0" :max="100" :precision="1" :model-value="(layer.chance?.low ?? 0) * 100" aria-label="Chance of the layer from, in per cent" @update:model-value="setChance({ low: ($event ?? 0) / 100 })" />–<el-input-number size="small" class="short" :controls="false" :min="0" :max="100" :precision="1" :model-value="(layer.chance?.high ?? 1) * 100" aria-label="Chance of the layer up to, in per cent" @update:model-value="setChance({ high: ($event ?? 100) / 100 })" /><span class="quiet">%</span>
    </div>
  </div>
</template>

<style scoped>
.own { display: flex; flex-wrap: wrap; align-items: center; gap: 2px 16px; padding: 2px 12px 4px; border-top: 1px solid var(--rule); font-size: 12px; }
.title { max-width: 150px; font-weight: 600; }
.part, .choice { display: inline-flex; align-items: center; gap: 4px; }
.own :deep(.el-input-number) { width: 58px; }
.own :deep(.short) { width: 46px; }
.type { width: 96px; }
</style>
