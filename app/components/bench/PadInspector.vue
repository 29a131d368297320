<script setup lang="ts">
import type { Layer, Pad } from '~~/core/kit/document'
import { setLayer, setPads, type LayerSettings, type PadSettings } from '~~/core/kit/edits'
import { noteLabel, parseNote } from '~~/core/audio/notes'
import { KINDS } from '~~/core/search/kinds'
import { counted, kilohertz, seconds } from '../../composables/useFormat'
import { usePadLikes } from '../../composables/usePadLikes'
import { useKit } from '../../stores/kit'
import { useSettings } from '../../stores/settings'

/** Settings of the pad at hand, or of all chosen pads; it says which. */
const emit = defineEmits<{ leave: [] }>()
const findLikes = usePadLikes()
const kit = useKit()
const settings = useSettings()

const layer = computed<Layer | undefined>(() => kit.pad.layers[0])
const outline = computed(() => layer.value ? kit.sounds.get(layer.value.sound.id)?.outline ?? null : null)
const several = computed(() => kit.editedPads.length > 1)
const chosenPads = computed(() => kit.editedPads.map(index => kit.kit.pads[index]!))

const title = computed(() => {
  if (several.value) return `${kit.editedPads.length} pads`
  const layers = kit.pad.layers.length
  return `${noteLabel(kit.pad.note, settings.middleC)} ${kit.pad.name || 'empty'}${layers > 0 ? `, layer 1 of ${layers}` : ''}`
})

function isMixed(field: keyof Pad): boolean {
  return chosenPads.value.some(pad => pad[field] !== kit.pad[field])
}

function what(): string {
  return several.value ? counted(kit.editedPads.length, 'pad') : kit.pad.name || noteLabel(kit.pad.note, settings.middleC)
}

/** Edits of one field that follow one another are one step of undo. */
function set(label: string, change: PadSettings): void {
  const field = Object.keys(change)[0]
  kit.edit(`${label} of ${what()}`, state => setPads(state, kit.editedPads, change), `${field}:${kit.editedPads.join(',')}`)
}

function setTrim(change: LayerSettings): void {
  const field = Object.keys(change)[0]
  kit.edit(`Trim of ${what()}`, state => setLayer(state, kit.padIndex, 0, change), `${field}:${kit.padIndex}`)
}

function setReverse(reverse: boolean): void {
  kit.edit(`${reverse ? 'Reverse' : 'Forwards'}: ${what()}`, state => kit.editedPads.reduce((next, index) => setLayer(next, index, 0, { reverse }), state))
}

const noteText = ref('')
watch(() => [kit.pad.note, settings.middleC], () => {
  noteText.value = noteLabel(kit.pad.note, settings.middleC)
}, { immediate: true })

function setNote(): void {
  const typed = noteText.value.includes('·') ? noteText.value.split('·')[0]! : noteText.value
  const note = parseNote(typed, settings.middleC)
  if (note === undefined) ElMessage({ type: 'warning', message: `"${noteText.value}" is no note. Type a number from 0 to 127 or a name such as F#1.` })
  else if (note !== kit.pad.note) set('Note', { note })
  noteText.value = noteLabel(kit.pad.note, settings.middleC)
}

const MS = 1000
const startMs = computed(() => layer.value ? layer.value.startFrame / layer.value.sound.sampleRate * MS : 0)
const endMs = computed(() => layer.value ? layer.value.endFrame / layer.value.sound.sampleRate * MS : 0)
const toFrame = (ms: number) => Math.round(ms / MS * (layer.value?.sound.sampleRate ?? 1))
</script>

<template>
  <section class="inspector" aria-label="Settings of the pad at hand" @keydown.esc="emit('leave')">
    <h2 class="cut" :title="title">
      {{ title }}
    </h2>
    <p v-if="!layer && !several" class="quiet">
      No sound on this pad yet. Drag one here from the tray or the Library, or press <kbd>Enter</kbd> on one in the tray.
    </p>
    <template v-if="layer && !several">
      <TrimEditor :layer="layer" :outline="outline" @change="setTrim" />
      <p class="figure quiet facts">
        {{ seconds(layer.sound.frames / layer.sound.sampleRate) }} · {{ kilohertz(layer.sound.sampleRate) }} · {{ layer.sound.channels === 1 ? 'mono' : 'stereo' }}
        <el-button size="small" text @click="findLikes">
          More like it
        </el-button>
      </p>
    </template>
    <el-form label-width="78px" label-position="left" size="small" class="form" @submit.prevent>
      <el-form-item v-if="!several" label="Name">
        <el-input :model-value="kit.pad.name" maxlength="200" aria-label="Name" @update:model-value="set('Name', { name: $event })" />
      </el-form-item>
      <el-form-item v-if="!several" label="Note">
        <el-input v-model="noteText" class="figure" aria-label="Note" @change="setNote" />
      </el-form-item>
      <el-form-item label="Role">
        <el-select :model-value="kit.pad.role ?? ''" clearable filterable placeholder="none" aria-label="Role" @update:model-value="set('Role', { role: $event || null })">
          <el-option v-for="kind in KINDS" :key="kind.path" :value="kind.path" :label="kind.label" />
        </el-select>
      </el-form-item>
      <el-form-item label="Gain, dB">
        <el-input-number :model-value="kit.pad.gainDb" :min="-96" :max="24" :step="0.5" :precision="1" aria-label="Gain in dB" @update:model-value="set('Gain', { gainDb: $event ?? 0 })" /><span v-if="isMixed('gainDb')" class="look mixed">mixed</span>
      </el-form-item>
      <el-form-item label="Pan">
        <el-input-number :model-value="Math.round(kit.pad.pan * 100)" :min="-100" :max="100" :step="5" :precision="0" aria-label="Pan, -100 left to 100 right" @update:model-value="set('Pan', { pan: ($event ?? 0) / 100 })" /><span v-if="isMixed('pan')" class="look mixed">mixed</span>
      </el-form-item>
      <el-form-item label="Tune, cents">
        <el-input-number :model-value="kit.pad.tuneCents" :min="-4800" :max="4800" :step="10" :precision="0" aria-label="Tune in cents" @update:model-value="set('Tune', { tuneCents: $event ?? 0 })" /><span v-if="isMixed('tuneCents')" class="look mixed">mixed</span>
      </el-form-item>
      <el-form-item label="Plays">
        <el-radio-group :model-value="isMixed('play') ? '' : kit.pad.play" aria-label="Plays" @update:model-value="set('Playing', { play: $event === 'gated' ? 'gated' : 'one-shot' })">
          <el-radio value="one-shot">
            one-shot
          </el-radio>
          <el-radio value="gated">
            gated
          </el-radio>
        </el-radio-group>
      </el-form-item>
      <el-form-item label="Choke">
        <el-select :model-value="kit.pad.chokeGroup ?? 0" aria-label="Choke group" @update:model-value="set('Choke group', { chokeGroup: $event || null })">
          <el-option :value="0" label="none" />
          <el-option v-for="group in 32" :key="group" :value="group" :label="`group ${group}`" />
        </el-select><span v-if="isMixed('chokeGroup')" class="look mixed">mixed</span>
      </el-form-item>
      <template v-if="layer">
        <el-form-item label="Reverse">
          <el-switch :model-value="layer.reverse" aria-label="Reverse" @update:model-value="setReverse(Boolean($event))" />
        </el-form-item>
        <template v-if="!several">
          <el-form-item label="Start, ms">
            <el-input-number :model-value="startMs" :min="0" :max="endMs" :step="1" :precision="1" aria-label="Start in ms" @update:model-value="setTrim({ startFrame: toFrame($event ?? 0) })" />
          </el-form-item>
          <el-form-item label="End, ms">
            <el-input-number :model-value="endMs" :min="startMs" :step="1" :precision="1" aria-label="End in ms" @update:model-value="setTrim({ endFrame: toFrame($event ?? endMs) })" />
          </el-form-item>
        </template>
      </template>
    </el-form>
  </section>
</template>

<style scoped>
.inspector { width: 252px; flex: none; padding: 10px 12px; border-left: 1px solid var(--rule); overflow-y: auto; }
h2 { margin-bottom: 8px; }
.facts { display: flex; flex-wrap: wrap; align-items: center; white-space: normal; margin: 4px 0 8px; }
.form :deep(.el-form-item) { margin-bottom: 6px; }
.form :deep(.el-form-item__label) { padding-right: 6px; }
.form :deep(.el-input-number) { width: 118px; }
.form :deep(.el-input-number input) { font-family: var(--figures); }
.form :deep(.el-radio) { margin-right: 12px; }
.mixed { margin-left: 8px; font-size: 12px; }
</style>
