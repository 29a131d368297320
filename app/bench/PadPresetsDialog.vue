<script setup lang="ts">
import { vaultRoutes } from '~~/contract/vault'
import { addressOf } from '~~/contract/endpoint'
import { padLabel } from '~~/core/kit/padLabel'
import { counted, moment, whole } from '../parts/useFormat'
import { usePadPresets } from './usePadPresets'
import { usePresetList, useVault } from '../vault'
import { useKit } from './kit'
import { usePlayer } from '../sound'

/** Stored pads, to be heard and put onto the current pad. */
const open = defineModel<boolean>({ required: true })
const kit = useKit()
const vault = useVault()
const player = usePlayer()
const presets = usePadPresets()
const stored = computed(() => (vault.vault?.presets ?? []).filter(preset => preset.type === 'pad'))
const { words, found } = usePresetList(() => stored.value)
const MOST_SHOWN = 100

async function put(id: string): Promise<void> {
  await presets.load(id)
  open.value = false
}
</script>

<template>
  <el-dialog v-model="open" :title="`Load a pad preset onto ${padLabel(kit.padIndex)}`" width="520" append-to-body>
    <p v-if="stored.length === 0" class="quiet">
      No pad presets yet. "Store as a pad preset" in the menu of a pad keeps it here with its samples.
    </p>
    <el-input v-else-if="stored.length > 8" v-model="words" clearable placeholder="Find pad presets" aria-label="Find pad presets" />
    <div v-for="preset in found.slice(0, MOST_SHOWN)" :key="preset.id" class="line">
      <span class="cut" :title="preset.name"><strong>{{ preset.name }}</strong> <span class="quiet">{{ counted(preset.samples, 'sample') }} · {{ moment(preset.storedAt) }}</span></span>
      <el-button size="small" :aria-label="`Play ${preset.name}`" @click="player.play({ url: addressOf(vaultRoutes.preview, { params: { id: preset.id }, query: { revision: preset.revision } }), title: preset.name, row: null })">
        Play
      </el-button>
      <el-button size="small" type="primary" @click="put(preset.id)">
        Load onto {{ padLabel(kit.padIndex) }}
      </el-button>
    </div>
    <p v-if="found.length > MOST_SHOWN || found.length < stored.length" class="quiet">
      {{ whole(Math.min(found.length, MOST_SHOWN)) }} of {{ counted(stored.length, 'pad preset') }} shown.
    </p>
  </el-dialog>
</template>

<style scoped>
.line { display: grid; grid-template-columns: minmax(0, 1fr) auto auto; align-items: center; gap: 8px; min-height: 34px; border-bottom: 1px solid var(--rule); }
.line :deep(.el-button) { margin-left: 0; }
</style>
