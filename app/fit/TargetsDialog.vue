<script setup lang="ts">
import { slotsOf, type Target } from '~~/core/fit/target'
import { METERS, roomOf } from '~~/core/fit/usage'
import { depthWords, meterWords, METER_NAMES } from '~~/core/fit/words'
import { say, saying } from '../parts/useSay'
import { useTargets } from './targets'

/** All targets with their limits; the user's own can be added, changed and taken away. */
const open = defineModel<boolean>({ required: true })

const targets = useTargets()
const chosenId = ref('lembos')
const draft = ref<Target>()
const isNew = ref(false)

const chosen = computed(() => targets.views.find(view => view.target.id === chosenId.value) ?? targets.views[0]!)
const limits = computed(() => {
  const { target } = chosen.value
  const room = roomOf(target)
  const rates = target.audio.rates.length > 0 ? target.audio.rates.map(rate => `${rate / 1000}`).join(', ') : `up to ${target.audio.highestRate / 1000}`
  return [
    ['Pads', `${slotsOf(target)}: ${target.pads.banks} × ${target.pads.inBank}`],
    ['Notes', `${target.notes.first} to ${target.notes.last}, ${target.notes.way === 'fixed' ? 'one for each pad in order' : 'free'}`],
    ['Layers', `${target.layers} by velocity${target.turns > 1 ? `, ${target.turns} takes in turn` : ''}`],
    ...METERS.filter(meter => !['pads', 'notes', 'layers'].includes(meter) && room[meter] !== null).map(meter => [METER_NAMES[meter], meterWords(meter, room[meter]!, target)]),
    ['Rates', `${rates} kHz`], ['Depths', target.audio.depths.map(depthWords).join(', ')], ['Channels', target.audio.channels === 1 ? 'mono' : 'stereo'],
    ['Voices', target.polyphony === null ? 'not limited' : String(target.polyphony)],
    ['Names', `${target.names.parts.join(' + ')}, ${target.names.longest} characters${target.names.case === 'as it is' ? '' : `, ${target.names.case} case`}`],
    ['Empty pads', target.empty === 'erased' ? 'are erased on sending' : 'are kept'],
    ['Supports', target.holds.length > 0 ? target.holds.join(', ') : 'nothing: settings are rendered into the samples'],
  ]
})

onMounted(() => void saying(targets.load))

function copy(): void {
  const { target } = chosen.value
  const taken = new Set(targets.all.map(one => one.id))
  const id = Array.from({ length: 99 }, (_, i) => `${target.id.slice(0, 48)}-own${i === 0 ? '' : i + 1}`).find(candidate => !taken.has(candidate))!
  draft.value = structuredClone(toRaw({ ...target, id, name: `${target.name} copy`.slice(0, 60) }))
  isNew.value = true
}

function edit(): void {
  draft.value = structuredClone(toRaw(chosen.value.target))
  isNew.value = false
}

async function save(target: Target): Promise<void> {
  const done = await saying(() => targets.save(target).then(() => true))
  if (!done) return
  draft.value = undefined
  chosenId.value = target.id
  say(`"${target.name}" was saved.`)
}

async function remove(): Promise<void> {
  const { target } = chosen.value
  const sure = await ElMessageBox.confirm('Kits that were made for it are not changed.', `Delete the target "${target.name}"?`, { confirmButtonText: 'Delete this target', cancelButtonText: 'Cancel' }).catch(() => undefined)
  if (sure) await saying(() => targets.remove(target.id))
}
</script>

<template>
  <el-dialog v-model="open" title="Targets" width="820" top="5vh" append-to-body @closed="draft = undefined">
    <TargetForm v-if="draft" :target="draft" :is-new="isNew" @save="save" @leave="draft = undefined" />
    <div v-else class="sheet">
      <div class="list" role="listbox" aria-label="Targets">
        <button v-for="{ target, isOwn } in targets.views" :key="target.id" type="button" role="option" class="one" :class="{ 'at-hand': target.id === chosen.target.id }" :aria-selected="target.id === chosen.target.id" @click="chosenId = target.id">
          <span class="cut">{{ target.name }}</span><span v-if="isOwn" class="quiet">your own</span>
        </button>
        <p v-for="problem in targets.problems" :key="problem" class="lost problem">
          {{ problem }}
        </p>
      </div>
      <section class="detail" :aria-label="chosen.target.name">
        <h2>{{ chosen.target.name }}</h2>
        <p>{{ chosen.target.about }}</p>
        <dl>
          <template v-for="[name, value] in limits" :key="name">
            <dt>{{ name }}</dt><dd class="figure">{{ value }}</dd>
          </template>
        </dl>
        <div class="buttons">
          <el-button @click="copy">
            Duplicate…
          </el-button>
          <el-button v-if="chosen.isOwn" @click="edit">
            Edit…
          </el-button>
          <el-button v-if="chosen.isOwn" @click="remove">
            Delete…
          </el-button>
        </div>
      </section>
    </div>
  </el-dialog>
</template>

<style scoped>
.sheet { display: grid; grid-template-columns: 220px minmax(0, 1fr); height: 480px; border: 1px solid var(--rule); }
.list { overflow-y: auto; border-right: 1px solid var(--rule); }
.one { display: flex; justify-content: space-between; gap: 8px; width: 100%; min-height: var(--row); align-items: center; padding: 0 10px; border: 0; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); background: none; color: var(--ink); font: inherit; text-align: left; cursor: pointer; }
.one:hover { background: var(--chosen); }
.one.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.problem { padding: 6px 10px; font-size: 12px; overflow-wrap: anywhere; }
.detail { padding: 10px 16px; overflow-y: auto; }
.detail p { margin: 4px 0 10px; }
dl { display: grid; grid-template-columns: 110px minmax(0, 1fr); gap: 3px 10px; margin: 0; }
dt { color: var(--quiet); }
dd { margin: 0; white-space: normal; }
.buttons { margin-top: 14px; }
</style>
