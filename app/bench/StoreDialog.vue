<script setup lang="ts">
import { vaultRoutes } from '~~/contract/vault'
import type { Heard } from '~~/contract/bounce'
import type { Stored } from '~~/contract/jobs'
import { differencesOf, type Difference } from '~~/core/kit/differences'
import { soundsOf } from '~~/core/kit/document'
import { presetExists } from '~~/core/kit/words'
import { NAME_LENGTHS } from '~~/core/nameLengths'
import { api } from '../parts/useApi'
import { counted, megabytes } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useGrooves } from '../grooves'
import { useKit } from './kit'
import { useStandIns } from './standIns'
import { useVault } from '../vault'

/** Stores the current kit in the vault. A name that is taken is never stored over unasked. */
const open = defineModel<boolean>({ required: true })

const kit = useKit()
const standIns = useStandIns()
const vault = useVault()
const grooves = useGrooves()
/** The current pattern goes with it as its own. */
const withPattern = ref(false)
const field = useTemplateRef<{ focus: () => void }>('field')
const doneButton = useTemplateRef<{ $el: HTMLElement }>('doneButton')
const storeButton = useTemplateRef<{ $el: HTMLElement }>('storeButton')
const name = ref('')
const how = ref<'revision' | 'new'>('new')
const busy = ref(false)
const stored = shallowRef<Stored>()
/** Of the preview: the kit is stored with its mutes and solos. */
const heard = ref<Heard>('all pads')

const origin = computed(() => vault.vault?.presets.find(preset => preset.id === kit.presetId))
const same = computed(() => vault.vault?.presets.find(preset => preset.name.trim().toLowerCase() === name.value.trim().toLowerCase()))
const target = computed(() => how.value === 'revision' ? origin.value ?? same.value : undefined)
/** What is another than in the revision that the kit was opened from; undefined while that is not known. */
const changes = shallowRef<readonly Difference[]>()
const samples = computed(() => soundsOf(kit.kit).length)
const blocked = computed(() => how.value === 'new' && same.value !== undefined)

watch(open, (isOpen) => {
  if (!isOpen) return
  stored.value = undefined
  name.value = kit.kit.name
  how.value = origin.value ? 'revision' : 'new'
  withPattern.value = Boolean(origin.value?.patternId)
  void compare()
}, { immediate: true })

async function compare(): Promise<void> {
  changes.value = undefined
  const { presetRevision: revision } = kit
  if (!origin.value || revision === null) return
  const stored = await saying(() => api(vaultRoutes.read, { params: { id: origin.value!.id }, query: { revision } }))
  if (stored?.revision.file) changes.value = differencesOf({ ...stored.revision.file.kit, name: kit.kit.name }, kit.kit)
}

const COUNTED = [['added', 'added'], ['removed', 'removed'], ['altered', 'altered']] as const
const summary = computed(() => COUNTED.flatMap(([what, word]) => {
  const count = changes.value?.filter(change => change.what === what).length ?? 0
  return count > 0 ? [`${count} ${word}`] : []
}).join(', '))

async function store(): Promise<void> {
  if (blocked.value || busy.value) return
  busy.value = true
  stored.value = await saying(() => vault.store(target.value?.name ?? name.value.trim(), target.value?.id ?? null, withPattern.value && grooves.id ? { id: grooves.id, document: grooves.pattern } : undefined, heard.value))
  busy.value = false
  await nextTick()
  // What had the keys is gone.
  doneButton.value?.$el.focus()
}

async function showInVault(): Promise<void> {
  const { presetId } = stored.value!
  open.value = false
  await navigateTo({ path: '/vault', query: { preset: presetId } })
}
</script>

<template>
  <el-dialog v-model="open" :title="stored ? 'Stored' : `Store ${kit.kit.name}`" width="520" append-to-body @opened="field ? field.focus() : storeButton?.$el.focus()">
    <div v-if="stored" class="receipt">
      <p><strong>{{ stored.name }}</strong>, revision {{ stored.revision }}, is in the vault.</p>
      <dl>
        <dt>Pads</dt><dd class="figure">
          {{ stored.pads }}
        </dd>
        <dt>Samples</dt><dd class="figure">
          {{ stored.samples }}, copied bit for bit
        </dd>
        <dt>Size</dt><dd class="figure">
          {{ megabytes(stored.bytes) }}
        </dd>
        <template v-if="stored.previewSilent || stored.previewLoweredDb < 0">
          <dt>Preview</dt><dd class="look">
            {{ stored.previewSilent ? 'digital silence' : `lowered by ${(-stored.previewLoweredDb).toFixed(1)} dB, to -1 dBTP` }}
          </dd>
        </template>
        <dt>Where</dt><dd class="path">
          {{ stored.path }}
        </dd>
      </dl>
    </div>
    <el-form v-else label-position="top" @submit.prevent="store">
      <el-radio-group v-if="origin" v-model="how" class="how">
        <el-radio value="revision">
          As revision {{ origin.revision + 1 }} of "{{ origin.name }}" (earlier revisions stay)
        </el-radio>
        <el-radio value="new">
          As a new preset
        </el-radio>
      </el-radio-group>
      <el-form-item v-if="how === 'new' || !origin" label="Name">
        <el-input ref="field" v-model="name" :maxlength="NAME_LENGTHS.preset" aria-label="Name of the preset" @keydown.enter.prevent="store" />
      </el-form-item>
      <p v-if="blocked && same" class="look" role="alert">
        {{ presetExists(same.name) }}
        <el-button size="small" @click="how = 'revision'">
          Store as revision {{ same.revision + 1 }}
        </el-button>
        or choose another name.
      </p>
      <p v-if="how === 'revision' && !origin && same" class="quiet">
        This becomes revision {{ same.revision + 1 }} of "{{ same.name }}"; earlier revisions stay. <a href="#" @click.prevent="how = 'new'">Choose another name instead</a>
      </p>
      <div v-if="origin && changes" class="changes" role="group" aria-label="What changed since it was stored">
        <p class="quiet">
          {{ changes.length === 0 ? `Nothing changed since revision ${kit.presetRevision}.` : `Since revision ${kit.presetRevision}: ${summary}.` }}
        </p>
        <ul v-if="changes.length > 0">
          <li v-for="change in changes" :key="`${change.what} ${change.padIndex}`" :class="{ lost: change.what === 'removed' }">
            {{ change.what }}: {{ change.text }}
          </li>
        </ul>
      </div>
      <el-checkbox v-if="grooves.id" v-model="withPattern">
        With the pattern "{{ grooves.pattern.name }}" as its own: it is the preset's preview, and comes with it when it is opened
      </el-checkbox>
      <SilencingChoice v-model="heard" :kits="[kit.kit]" what="the preview" />
      <p v-if="kit.missingSounds.length > 0" class="lost">
        {{ counted(kit.missingSounds.length, 'sample') }} cannot be found, so this kit cannot be stored yet: {{ kit.missingSounds.map(sound => sound.name).join(', ') }}.
        <el-button size="small" @click="saying(standIns.open)">
          Replace them…
        </el-button>
      </p>
    </el-form>
    <template #footer>
      <template v-if="stored">
        <el-button ref="doneButton" @click="open = false">
          Done
        </el-button>
        <el-button type="primary" @click="showInVault">
          Show in the vault
        </el-button>
      </template>
      <template v-else>
        <el-button @click="open = false">
          Cancel
        </el-button>
        <el-button ref="storeButton" type="primary" :loading="busy" :disabled="blocked || name.trim() === ''" @click="store">
          Copy {{ counted(samples, 'sample') }} into the vault
        </el-button>
      </template>
    </template>
  </el-dialog>
</template>

<style scoped>
.how { display: grid; margin-bottom: 12px; }
.changes p { margin: 0 0 4px; }
.changes ul { max-height: 170px; margin: 0; padding: 4px 8px; overflow-y: auto; border: 1px solid var(--rule); list-style: none; font-size: 12px; }
.how .el-radio { height: auto; margin-bottom: 6px; }
dl { display: grid; grid-template-columns: 80px 1fr; gap: 4px 12px; margin: 0; }
dt { color: var(--quiet); }
dd { margin: 0; }
form .el-checkbox { height: auto; white-space: normal; }
.path { overflow-wrap: anywhere; }
</style>
