<script setup lang="ts">
import { startDrag } from '../parts/useDrag'
import { soundRoutes } from '~~/contract/library'
import { addressOf } from '~~/contract/endpoint'
import { knownSound } from '~~/core/kit/parts'
import { MOST_LAYERS, type Layer } from '~~/core/kit/document'
import { setLayer, setPads, type LayerSettings } from '~~/core/kit/edits'
import { addLayer, coverageOf, drawByChance, moveLayer, removeLayer, setAlternate, splitEvenly, stackLayers, takeTurns } from '~~/core/kit/layerEdits'
import { padLabel } from '~~/core/kit/padLabel'
import { equalRanges } from '~~/core/kit/ranges'
import { carriesSounds, droppedSounds } from '../parts/dragged'
import { counted } from '../parts/useFormat'
import { learningController } from './useMidiInput'
import { say, saying } from '../parts/useSay'
import { useKit } from './kit'
import { usePlayer } from '../sound'

/** The layers of the current pad over velocity: ranges are dragged, split, made to overlap; turns are ordered. */
const kit = useKit()
const player = usePlayer()
const layerIndex = defineModel<number>('layer', { default: 0 })
const overlap = ref(12)
const ruler = useTemplateRef<HTMLElement>('ruler')

const coverage = computed(() => coverageOf(kit.pad))
const isAlternating = computed(() => kit.pad.alternate !== null)
const lines = computed(() => {
  const ranges = isAlternating.value ? equalRanges(Math.max(1, kit.pad.layers.length)) : []
  return kit.pad.layers.map((layer, index) => ({ layer, index, low: ranges[index]?.low ?? layer.lowVelocity, high: ranges[index]?.high ?? layer.highVelocity }))
})

watch(() => [kit.id, kit.padIndex], () => kit.loadBeside(kit.padIndex), { immediate: true })
onUnmounted(() => kit.loadBeside(undefined))

function edit(label: string, change: Parameters<typeof kit.edit>[1], gesture?: string): void {
  kit.edit(`${label} of ${padLabel(kit.padIndex)}`, change, gesture && `${gesture}:${kit.padIndex}`)
}

function set(index: number, change: LayerSettings, label: string): void {
  edit(label, state => setLayer(state, kit.padIndex, index, change), `${label} ${index}`)
}

type Edge = 'lowVelocity' | 'highVelocity'

function dragEdge(index: number, edge: Edge, event: PointerEvent): void {
  const before = kit.pad.layers[index]?.[edge]
  if (event.button !== 0 || before === undefined) return
  const box = ruler.value!.getBoundingClientRect()
  layerIndex.value = index
  startDrag(event, { move: moved => setEdge(index, edge, Math.round((moved.clientX - box.left) / box.width * 127)), cancel: () => setEdge(index, edge, before) })
}

function setEdge(index: number, edge: Edge, velocity: number): void {
  const layer = kit.pad.layers[index]
  if (!layer) return
  const held = edge === 'lowVelocity' ? Math.max(1, Math.min(velocity, layer.highVelocity)) : Math.max(layer.lowVelocity, Math.min(velocity, 127))
  if (held !== layer[edge]) set(index, { [edge]: held }, 'Velocities')
}

function edgeKey(index: number, edge: Edge, event: KeyboardEvent): void {
  const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (way === undefined) return
  event.preventDefault()
  event.stopPropagation()
  setEdge(index, edge, kit.pad.layers[index]![edge] + way * (event.shiftKey ? 10 : 1))
}

function rowKey(index: number, event: KeyboardEvent): void {
  if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
    event.preventDefault()
    event.stopPropagation()
    const to = index + (event.key === 'ArrowUp' ? -1 : 1)
    if (to < 0 || to >= kit.pad.layers.length) return
    edit('Order of the layers', state => moveLayer(state, kit.padIndex, index, to))
    layerIndex.value = to
    void nextTick(() => ruler.value?.closest('.layers')?.querySelectorAll<HTMLElement>('.layer')[to]?.focus())
  }
  else if (event.key === 'Delete') {
    event.preventDefault()
    event.stopPropagation()
    remove(index)
  }
  else if (event.key === ' ') {
    event.preventDefault()
    event.stopPropagation()
    hear(kit.pad.layers[index])
  }
}

function remove(index: number): void {
  edit('Remove layer', state => removeLayer(state, kit.padIndex, index))
  layerIndex.value = Math.max(0, Math.min(layerIndex.value, kit.pad.layers.length - 1))
}

function hear(layer: Layer | undefined): void {
  if (layer) void player.play({ url: addressOf(soundRoutes.audio, { params: { hash: layer.sound.id } }), title: layer.sound.name, row: null })
}

function drop(event: DragEvent): void {
  void saying(async () => {
    const { padIndex } = kit
    const rows = await kit.stillAtHand(droppedSounds(event))
    const layers = () => kit.kit.pads[padIndex]!.layers.length
    const before = layers()
    if (rows.length > 0) kit.edit(`Add layers of ${padLabel(padIndex)}`, state => rows.reduce((next, row) => addLayer(next, padIndex, knownSound(row).sound), state))
    const added = layers() - before
    if (added < rows.length) say(`${counted(rows.length - added, 'sound')} not added: a pad can have up to ${MOST_LAYERS} layers.`)
  })
}

function learn(): void {
  learningController.value = learningController.value === kit.padIndex ? undefined : kit.padIndex
}

const percent = (value: number) => `${Math.round(value * 100)} %`

function alternate(isOn: boolean): void {
  edit(isOn ? 'Alternates' : 'Layers', state => setAlternate(state, kit.padIndex, isOn ? 0 : null))
}

/** Narrower than its words, a range has them beside it. */
const NARROWEST = 24
function besideOrIn(low: number, high: number): Record<string, string> {
  if (high - low >= NARROWEST) return { left: `${(low + high) / 2 / 127 * 100}%`, transform: 'translateX(-50%)' }
  return high > 127 - NARROWEST ? { right: `calc(${(128 - low) / 127 * 100}% + 6px)` } : { left: `calc(${high / 127 * 100}% + 6px)` }
}

const warning = computed(() => {
  const range = ({ low, high }: { low: number, high: number }) => low === high ? String(low) : `${low}–${high}`
  const parts = [
    coverage.value.gaps.length > 0 && `Silent at ${coverage.value.gaps.map(range).join(', ')}`,
    coverage.value.overlaps.length > 0 && `Sounds more than once at ${coverage.value.overlaps.map(range).join(', ')}`,
  ]
  return parts.filter(Boolean).join('. ')
})
</script>

<template>
  <div class="layers" @dragover.prevent="carriesSounds" @drop.prevent="drop">
    <div class="tools">
      <el-button size="small" :disabled="kit.pad.layers.length < 2 || isAlternating" @click="edit('Split the velocities', state => splitEvenly(state, kit.padIndex))">
        Split evenly
      </el-button>
      <el-button size="small" :disabled="kit.pad.layers.length < 2 || isAlternating" @click="edit('Crossfade', state => splitEvenly(state, kit.padIndex, overlap))">
        Overlap and crossfade
      </el-button>
      <el-input-number v-model="overlap" size="small" :min="1" :max="60" :controls="false" aria-label="Velocities to crossfade" class="overlap" />
      <el-button size="small" :disabled="kit.pad.layers.length < 2 || isAlternating" @click="edit('Turns', state => takeTurns(state, kit.padIndex))">
        In turn
      </el-button>
      <el-button size="small" :disabled="kit.pad.layers.length < 2 || isAlternating" @click="edit('Stack', state => stackLayers(state, kit.padIndex))">
        All at once
      </el-button>
      <el-button size="small" :disabled="kit.pad.layers.length < 2 || isAlternating" @click="edit('Random', state => drawByChance(state, kit.padIndex))">
        Random
      </el-button>
      <label class="choice"><el-switch size="small" :model-value="isAlternating" aria-label="Alternates: a value chooses one" @update:model-value="alternate(Boolean($event))" /> Alternates</label>
      <template v-if="isAlternating">
        <el-slider class="value" size="small" :model-value="kit.pad.alternate ?? 0" :min="0" :max="127" aria-label="Alternate selector" @update:model-value="edit('Chosen alternate', state => setAlternate(state, kit.padIndex, Number($event)), 'alternate')" />
        <span class="figure">{{ kit.pad.alternate }}</span>
        <el-button size="small" @click="learn">
          {{ learningController === kit.padIndex ? 'Cancel learning' : kit.pad.alternateController === null ? 'Learn MIDI controller' : `Controller ${kit.pad.alternateController}` }}
        </el-button>
        <el-button v-if="kit.pad.alternateController !== null" size="small" text @click="edit('Controller', state => setPads(state, [kit.padIndex], { alternateController: null }))">
          Remove
        </el-button>
      </template>
      <span class="look warning" role="status">{{ warning }}</span>
    </div>
    <p v-if="kit.pad.layers.length === 0" class="quiet empty">
      No layer yet. Drop sounds here to stack them on {{ padLabel(kit.padIndex) }}.
    </p>
    <div v-else class="table" role="list" aria-label="Layers of the current pad">
      <div class="line scale quiet">
        <span>Layer</span><div ref="ruler" class="ruler figure"><span v-for="at in [1, 32, 64, 96, 127]" :key="at" :style="{ left: `${(at - 1) / 126 * 100}%` }">{{ at }}</span></div><span>Turn</span><span>Gain</span><span>Tune</span><span />
      </div>
      <div
        v-for="{ layer, index, low, high } in lines"
        :key="index"
        class="line layer"
        role="listitem"
        tabindex="0"
        :class="{ 'at-hand': index === layerIndex }"
        :aria-label="`Layer ${index + 1}: ${layer.sound.name}, ${isAlternating ? 'values' : 'velocities'} ${low} to ${high}`"
        @focus="layerIndex = index"
        @click="layerIndex = index"
        @keydown="rowKey(index, $event)"
      >
        <span class="cut" :title="layer.sound.name"><span class="figure quiet">{{ index + 1 }}</span> {{ layer.sound.name }}</span>
        <div class="ruler">
          <svg class="span" viewBox="0 0 127 20" preserveAspectRatio="none" aria-hidden="true">
            <polygon :points="isAlternating ? `${low},20 ${low},3 ${high + 1},3 ${high + 1},20` : `${low - 1},20 ${low - 1 + layer.fadeInVelocities},3 ${high - layer.fadeOutVelocities},3 ${high},20`" />
          </svg>
          <template v-if="!isAlternating">
            <span
              v-for="edge in (['lowVelocity', 'highVelocity'] as const)"
              :key="edge"
              class="edge"
              role="slider"
              tabindex="0"
              aria-valuemin="1"
              aria-valuemax="127"
              :aria-valuenow="layer[edge]"
              :aria-label="`${edge === 'lowVelocity' ? 'Lowest' : 'Highest'} velocity of layer ${index + 1}`"
              :style="{ left: `${(edge === 'lowVelocity' ? low - 1 : high) / 127 * 100}%` }"
              @pointerdown.prevent="dragEdge(index, edge, $event)"
              @keydown="edgeKey(index, edge, $event)"
            />
          </template>
          <span class="figure range" :style="besideOrIn(low, high)">{{ low }}–{{ high }}</span>
        </div>
        <span class="figure" :title="layer.chance ? `Picked at ${percent(layer.chance.low)} to ${percent(layer.chance.high)}` : ''">{{ layer.chance ? percent(layer.chance.high - layer.chance.low) : layer.turn ?? '–' }}</span>
        <el-input-number size="small" :controls="false" :model-value="layer.gainDb" :min="-96" :max="24" :precision="1" :aria-label="`Gain of layer ${index + 1} in dB`" @update:model-value="set(index, { gainDb: $event ?? 0 }, 'Gain')" />
        <el-input-number size="small" :controls="false" :model-value="layer.tuneCents" :min="-4800" :max="4800" :precision="0" :aria-label="`Tune of layer ${index + 1} in cents`" @update:model-value="set(index, { tuneCents: $event ?? 0 }, 'Tune')" />
        <span class="acts">
          <label class="choice"><el-checkbox size="small" :model-value="layer.reverse" :aria-label="`Reverse layer ${index + 1}`" @update:model-value="set(index, { reverse: Boolean($event) }, 'Reverse')" />reverse</label>
          <el-button size="small" text @click.stop="remove(index)">Remove</el-button>
        </span>
      </div>
    </div>
    <LayerSettings v-if="kit.pad.layers.length > 0" :index="Math.min(layerIndex, kit.pad.layers.length - 1)" />
  </div>
</template>

<style scoped>
.layers { display: flex; flex-direction: column; min-height: 0; flex: 1; }
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 4px 6px; padding: 5px 12px; }
.tools :deep(.el-button) { margin-left: 0; }
.overlap { width: 42px; }
.choice { display: inline-flex; align-items: center; gap: 4px; font-size: 12px; }
.value { width: 110px; margin: 0 8px; }
.warning { font-size: 12px; }
.empty { padding: 6px 12px; }
.table { flex: 1; min-height: 0; overflow-y: auto; padding: 0 12px 6px; }
.line { display: grid; grid-template-columns: minmax(90px, 170px) minmax(120px, 1fr) 28px 54px 58px 116px; align-items: center; gap: 10px; min-height: 26px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); font-size: 12px; }
.scale { position: sticky; top: 0; z-index: 1; min-height: 20px; background: var(--paper); }
.ruler { position: relative; height: 20px; }
.scale .ruler { height: 14px; font-size: 10px; }
.scale .ruler span { position: absolute; transform: translateX(-50%); }
.span { position: absolute; inset: 0; width: 100%; height: 100%; }
.span polygon { fill: color-mix(in srgb, var(--ink) 34%, var(--sheet)); }
.at-hand .span polygon { fill: color-mix(in srgb, var(--accent) 55%, var(--sheet)); }
.edge { position: absolute; top: 0; bottom: 0; width: 9px; margin-left: -4px; cursor: ew-resize; touch-action: none; }
.edge::before { content: ''; position: absolute; left: 4px; top: 0; bottom: 0; width: 2px; background: var(--accent); }
.range { position: absolute; top: 2px; pointer-events: none; white-space: nowrap; font-size: 11px; }
.line :deep(.el-input-number) { width: 100%; }
.acts { display: flex; align-items: center; justify-content: flex-end; gap: 2px; }
</style>
