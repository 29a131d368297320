<script setup lang="ts">
import type { Part } from '~~/core/groove/document'
import { hitsBeyond, removePart } from '~~/core/groove/edits'
import { figuresOf } from '~~/core/groove/figures'
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { ASSIGNING, type Assigning } from '~~/core/groove/assign'
import { counted } from '../parts/useFormat'
import { useGrooves } from './grooves'
import { useSettings } from '../parts/settings'

/** The parts of the pattern: which pad sounds each, how many hits it has, and how hard. */
const grooves = useGrooves()
const settings = useSettings()
const FOUND = 'found'
const NONE = 'none'
const WORDS: Readonly<Record<Assigning, string>> = { kind: 'by kind, else by note', note: 'by note alone' }

const parts = computed(() => grooves.pattern.parts.map((part) => {
  const index = grooves.assignment.get(part.id) ?? null
  const byHand = grooves.byHand[part.id]
  return { part, index, figures: figuresOf(part, grooves.pattern), chosen: byHand === undefined ? FOUND : byHand === null ? NONE : String(byHand) }
}))
const beyond = computed(() => hitsBeyond(grooves.pattern))
const pads = computed(() => grooves.joined.pads.flatMap((pad, index) => pad.layers.length > 0 ? [{ note: pad.note, label: `${padLabel(index % 128)} ${pad.name}` }] : []))

function assign(part: Part, value: string): void {
  grooves.assign(part.id, value === FOUND ? undefined : value === NONE ? null : Number(value))
}
const foundText = (index: number | null) => index === null ? 'no pad found' : `found: ${padLabel(index % 128)} ${grooves.joined.pads[index]?.name ?? ''}`
</script>

<template>
  <div class="parts">
    <div class="way">
      <span>Pads are found</span>
      <el-select :model-value="settings.groove.assigning" size="small" aria-label="How pads are found for parts" @update:model-value="settings.groove = { ...settings.groove, assigning: $event }">
        <el-option v-for="way in ASSIGNING" :key="way" :value="way" :label="WORDS[way]" />
      </el-select>
    </div>
    <p v-if="grooves.unheard.hits > 0" class="look" role="status">
      Not heard, as no pad of the kit suits: {{ counted(grooves.unheard.hits, 'hit') }} of {{ counted(grooves.unheard.parts.length, 'part') }}.
    </p>
    <p v-if="beyond > 0" class="quiet">
      {{ counted(beyond, 'hit') }} beyond the last bar: kept, not heard.
    </p>
    <div v-for="{ part, index, figures, chosen } in parts" :key="part.id" class="part" :class="{ unheard: index === null && part.hits.length > 0 }">
      <div class="line">
        <KindStamp v-if="part.role" :kind="part.role" /><strong class="cut" :title="part.name">{{ part.name }}</strong>
        <span class="figure quiet">{{ noteLabel(part.note, settings.middleC) }}</span>
        <button type="button" class="off" :aria-label="`Remove the part ${part.name} with ${counted(figures.hits, 'hit')}`" title="Remove the part with its hits" @click="grooves.edit(`Remove the part ${part.name}`, pattern => removePart(pattern, part.id))">
          ×
        </button>
      </div>
      <el-select :model-value="chosen" size="small" :aria-label="`Pad of ${part.name}`" @update:model-value="assign(part, $event)">
        <el-option :value="FOUND" :label="foundText(index)" />
        <el-option v-for="pad in pads" :key="pad.note" :value="String(pad.note)" :label="pad.label" />
        <el-option :value="NONE" label="none" />
      </el-select>
      <div class="figure quiet">
        {{ counted(figures.hits, 'hit') }}, {{ figures.hitsPerBar.toFixed(1) }} a bar<template v-if="figures.softest !== null">
          · {{ figures.softest }}–{{ figures.hardest }}, {{ figures.rangeDb.toFixed(1) }} dB
        </template>
      </div>
    </div>
    <p v-if="parts.length === 0" class="quiet">
      No parts yet. Draw a hit, or record some.
    </p>
  </div>
</template>

<style scoped>
.parts { padding: 6px 8px; overflow-y: auto; font-size: 12px; }
.way { display: grid; grid-template-columns: auto 1fr; gap: 6px; align-items: center; margin-bottom: 4px; }
.part { padding: 4px 0; border-bottom: 1px solid var(--rule); }
.line { display: flex; align-items: center; gap: 5px; }
.line strong { flex: 1; }
.unheard strong { color: var(--look); }
.off { width: 20px; height: 20px; border: 0; background: none; color: var(--quiet); cursor: pointer; }
.off:hover { color: var(--lost); }
p { margin: 2px 0; }
</style>
