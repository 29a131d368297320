<script setup lang="ts">
import { noteLabel, parseNote } from '~~/core/audio/notes'
import { addArticulation, changeArticulation, removeArticulation, setArticulation, setGroupVoices } from '~~/core/kit/articulationEdits'
import { MOST_ARTICULATIONS } from '~~/core/kit/document'
import { setPads } from '~~/core/kit/edits'
import { takenNotes } from '~~/core/kit/noteEdits'
import { padLabel } from '~~/core/kit/padLabel'
import { notANote } from '~~/core/kit/words'
import { counted } from '../parts/useFormat'
import { learningController } from './useMidiInput'
import { say } from '../parts/useSay'
import { useKit } from './kit'
import { useSettings } from '../parts/settings'

/** What pads share: choke groups with their members, the pads they cut and their voices; articulations with their keys. */
const kit = useKit()
const settings = useSettings()

const filled = computed(() => kit.kit.pads.map((pad, index) => ({ pad, index })).filter(({ pad }) => pad.layers.length > 0))
const namesOf = (indexes: readonly number[]) => indexes.map(padLabel).join(', ')
const groups = computed(() => {
  const numbers = new Set(filled.value.flatMap(({ pad }) => [pad.chokeGroup ?? [], pad.chokedBy ?? []].flat()))
  return [...numbers].sort((a, b) => a - b).map(group => ({
    group,
    members: filled.value.flatMap(({ pad, index }) => pad.chokeGroup === group ? [index] : []),
    cuts: filled.value.flatMap(({ pad, index }) => (pad.chokedBy ?? (pad.chokeGroup === null ? [] : [pad.chokeGroup])).includes(group) ? [index] : []),
    voices: kit.kit.groupPolyphony.find(one => one.group === group)?.voices,
  }))
})
const first = computed(() => kit.kit.articulation ?? kit.kit.articulations[0]?.id)

/** The lowest key that plays no pad and selects no articulation. */
function freeKey(): number | null {
  const taken = takenNotes(kit.kit)
  const keys = new Set(kit.kit.articulations.map(({ key }) => key))
  return Array.from({ length: 128 }, (_, note) => note).find(note => !taken.has(note) && !keys.has(note)) ?? null
}

function setKey(id: string, text: string): void {
  const key = text.trim() === '' ? null : parseNote(text.includes('·') ? text.split('·')[0]! : text, settings.middleC)
  if (key === undefined) say(notANote(text))
  else kit.edit('Key of an articulation', state => changeArticulation(state, id, { key }))
}

function send(id: string | null, name: string): void {
  kit.edit(`Assign ${counted(kit.editedPads.length, 'pad')} to ${name}`, state => setPads(state, kit.editedPads, { articulation: id }))
}

function learn(): void {
  learningController.value = learningController.value === 'articulations' ? undefined : 'articulations'
}
</script>

<template>
  <div class="groups">
    <div class="both">
      <section aria-label="Choke groups">
        <h3>Choke groups</h3>
        <p v-if="groups.length === 0" class="quiet">
          No choke groups yet. Select a group under Choke, beside the kit sheet: pads in a group cut each other off.
        </p>
        <div v-for="{ group, members, cuts, voices } in groups" :key="group" class="line" role="group" :aria-label="`Choke group ${group}`">
          <span class="figure">{{ group }}</span>
          <span class="cut" :title="`${namesOf(members) || 'No pad'}; cuts ${namesOf(cuts) || 'nothing'}`">{{ namesOf(members) || 'no pad' }}<span class="quiet"> cuts {{ namesOf(cuts) || 'nothing' }}</span></span>
          <span class="quiet">voices</span>
          <el-input-number size="small" :controls="false" :min="1" :max="256" :precision="0" placeholder="any" :model-value="voices" :aria-label="`Voices of group ${group}`" @update:model-value="kit.edit(`Voices of group ${group}`, state => setGroupVoices(state, group, $event ?? null), `voices of ${group}`)" />
        </div>
      </section>
      <section aria-label="Articulations">
        <h3>Articulations</h3>
        <div class="tools">
          <el-button size="small" :disabled="kit.kit.articulations.length >= MOST_ARTICULATIONS" @click="kit.edit('Add articulation', state => addArticulation(state, freeKey()))">
            Add articulation
          </el-button>
          <el-button v-if="kit.kit.articulations.length > 0" size="small" @click="learn">
            {{ learningController === 'articulations' ? 'Cancel learning' : 'Learn MIDI controller' }}
          </el-button>
          <template v-if="kit.kit.articulationController !== null">
            <span class="figure quiet">controller {{ kit.kit.articulationController }}</span>
            <el-button size="small" text @click="kit.edit('Controller for articulations', state => ({ ...state, articulationController: null }))">
              Remove
            </el-button>
          </template>
        </div>
        <p v-if="kit.kit.articulations.length === 0" class="quiet">
          No articulations yet. Pads that share a note can belong to different ones; a key or a MIDI controller selects the one that plays.
        </p>
        <div v-for="{ id, name, key, whileHeld } in kit.kit.articulations" :key="id" class="line articulation" role="group" :aria-label="`Articulation ${name}`">
          <el-radio size="small" :model-value="first" :value="id" :aria-label="`Use ${name} by default`" @update:model-value="kit.edit(`Default articulation: ${name}`, state => setArticulation(state, id))">
            default
          </el-radio>
          <el-input size="small" :model-value="name" maxlength="80" :aria-label="`Name of ${name}`" @change="$event && kit.edit('Name of an articulation', state => changeArticulation(state, id, { name: String($event) }))" />
          <el-input size="small" class="figure key" :model-value="key === null ? '' : noteLabel(key, settings.middleC)" placeholder="no key" :aria-label="`Key of ${name}`" @change="setKey(id, String($event))" />
          <label class="choice"><el-checkbox size="small" :model-value="whileHeld" :aria-label="`${name} only while its key is held`" @update:model-value="kit.edit('Articulation while held', state => changeArticulation(state, id, { whileHeld: Boolean($event) }))" />while held</label>
          <el-button size="small" :title="namesOf(filled.flatMap(({ pad, index }) => pad.articulation === id ? [index] : [])) || 'No pads yet'" @click="send(id, name)">
            Assign {{ counted(kit.editedPads.length, 'pad') }}
          </el-button>
          <el-button size="small" @click="kit.edit(`Delete ${name}`, state => removeArticulation(state, id))">
            Delete
          </el-button>
        </div>
      </section>
    </div>
  </div>
</template>

<style scoped>
.groups { container-type: inline-size; flex: 1; min-height: 0; overflow-y: auto; font-size: 12px; }
.both { display: grid; grid-template-columns: minmax(150px, 1fr) 490px; gap: 18px; padding: 4px 12px; }
h3 { margin: 2px 0; font-size: 13px; }
p { margin: 2px 0 6px; }
.tools { display: flex; align-items: center; gap: 6px; margin-bottom: 2px; }
.tools :deep(.el-button), .line :deep(.el-button) { margin-left: 0; }
.line { display: grid; grid-template-columns: 14px minmax(0, 1fr) auto 44px; align-items: center; gap: 6px; min-height: 30px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.articulation { display: flex; flex-wrap: wrap; gap: 2px 6px; }
.articulation > .el-input { flex: 1; min-width: 70px; }
.articulation > .key { flex: none; width: 78px; }
.line :deep(.el-button) { padding: 5px 7px; }
.choice { display: inline-flex; align-items: center; gap: 4px; white-space: nowrap; }
.line :deep(.el-input-number) { width: 44px; }
.line :deep(.el-radio) { margin-right: 0; }
@container (max-width: 670px) { .both { grid-template-columns: 1fr; gap: 6px; } }
</style>
