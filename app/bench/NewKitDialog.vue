<script setup lang="ts">
import { vaultRoutes } from '~~/contract/vault'
import { BLUEPRINTS, blueprintOf, ONE_KIND_SIZES, oneKind } from '~~/core/kit/blueprint'
import { emptyKit, type Kit } from '~~/core/kit/document'
import { kindLabel } from '~~/core/search/kinds'
import { api } from '../parts/useApi'
import { askName } from '../parts/useAskName'
import { counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useKit } from './kit'
import { useVault } from '../vault'

/** What a new kit begins with: nothing, roles, or what is stored. */
const open = defineModel<boolean>({ required: true })
const kit = useKit()
const vault = useVault()
const first = useTemplateRef<{ $el: HTMLElement }>('first')
const kind = ref('clap')
const size = ref<typeof ONE_KIND_SIZES[number]>(64)

const stored = computed(() => vault.vault?.presets ?? [])
const own = computed(() => stored.value.filter(preset => preset.type === 'blueprint'))
const bases = computed(() => stored.value.filter(preset => preset.type === 'kit'))
const base = ref('')

async function begin(from: Kit): Promise<void> {
  if (await saying(() => kit.create(from).then(() => true))) open.value = false
}

async function beginWith(presetId: string): Promise<void> {
  const found = await saying(() => api(vaultRoutes.read, { params: { id: presetId } }))
  if (found?.revision.file) await begin(found.revision.file.kit)
}

async function keepAsBlueprint(): Promise<void> {
  const name = await askName({ title: 'Save this kit as a blueprint', text: 'Roles, notes, choke groups, outputs and settings are kept, sounds are not.', value: `${kit.kit.name} blueprint`, does: 'Save as blueprint', of: 'preset' })
  if (!name) return
  const done = await saying(() => vault.storeAs('blueprint', name, { ...blueprintOf(kit.kit), name }))
  if (done) say(`"${done.name}" was saved as a blueprint.`)
}
</script>

<template>
  <el-dialog v-model="open" title="New kit" width="560" append-to-body @opened="first?.$el.focus()">
    <div class="line">
      <span><strong>Empty</strong> <span class="quiet">16 pads on notes 36 to 51</span></span>
      <el-button ref="first" type="primary" @click="begin(emptyKit('New kit'))">
        Create empty kit
      </el-button>
    </div>
    <h3>From a blueprint: roles with no sounds yet</h3>
    <div v-for="blueprint in BLUEPRINTS" :key="blueprint.id" class="line">
      <span>{{ blueprint.name }}</span>
      <el-button size="small" :aria-label="`Use ${blueprint.name}`" @click="begin(blueprint.kit)">
        Use
      </el-button>
    </div>
    <div class="line">
      <span class="kind">One kind:
        <KindSelect v-model="kind" size="small" label="Kind of the pads" />
        on
        <el-select v-model="size" size="small" class="size" aria-label="Pads"><el-option v-for="count in ONE_KIND_SIZES" :key="count" :value="count" :label="counted(count, 'pad')" /></el-select>
      </span>
      <el-button size="small" :aria-label="`Use ${counted(size, 'pad')} of one kind`" @click="begin(oneKind(kind, kindLabel(kind), size).kit)">
        Use
      </el-button>
    </div>
    <div v-for="preset in own" :key="preset.id" class="line">
      <span class="cut">{{ preset.name }} <span class="quiet">yours</span></span>
      <el-button size="small" :aria-label="`Open a copy of ${preset.name}`" @click="beginWith(preset.id)">
        Use
      </el-button>
    </div>
    <div class="line">
      <span class="quiet">Current kit: {{ counted(kit.kit.pads.filter(pad => pad.role !== null).length, 'role') }}</span>
      <el-button size="small" @click="keepAsBlueprint">
        Save as blueprint…
      </el-button>
    </div>
    <h3>From a stored kit: opens a copy</h3>
    <p v-if="bases.length === 0" class="quiet">
      No kit is stored yet.
    </p>
    <div v-else class="line">
      <el-select-v2 v-model="base" size="small" filterable placeholder="Stored kit" aria-label="Stored kit to copy" :options="bases.map(preset => ({ value: preset.id, label: preset.name }))" />
      <el-button size="small" :disabled="base === ''" @click="beginWith(base)">
        Open a copy
      </el-button>
    </div>
  </el-dialog>
</template>

<style scoped>
h3 { margin: 12px 0 2px; font-size: 13px; }
.line { display: grid; grid-template-columns: minmax(0, 1fr) auto; align-items: center; gap: 10px; min-height: 32px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); }
.kind { display: flex; align-items: center; gap: 6px; }
.kind :deep(.el-select) { width: 180px; }
.kind .size { width: 100px; }
</style>
