<script setup lang="ts">
import { ArrowDown } from '@element-plus/icons-vue'
import { clearPads } from '~~/core/kit/edits'
import { padLabel } from '~~/core/kit/padLabel'
import { counted } from '../../composables/useFormat'
import { usePadPresets } from '../../composables/usePadPresets'
import { useClip } from '../../stores/clip'
import { useKeyChoices } from '../../stores/keys'
import { useKit } from '../../stores/kit'

/** What is done with whole pads: copied, pasted, exchanged, stored by themselves. */
const kit = useKit()
const clip = useClip()
const keys = useKeyChoices()
const presets = usePadPresets()
const emit = defineEmits<{ presets: [] }>()

const which = computed(() => kit.editedPads.length === 1 ? padLabel(kit.padIndex) : counted(kit.editedPads.length, 'pad'))
const copied = computed(() => clip.clip?.pads.length ?? 0)
const ITEMS = computed(() => [
  { does: `Copy ${which.value}`, key: 'padCopy', act: clip.copy },
  { does: `Cut ${which.value}`, key: 'padCut', act: clip.cut },
  { does: copied.value > 0 ? `Paste ${counted(copied.value, 'pad')} from ${padLabel(kit.padIndex)} on` : 'Paste', key: 'padPaste', act: clip.paste, disabled: copied.value === 0 },
  { does: `Paste settings only onto ${which.value}`, key: 'padPasteSettings', act: clip.pasteOnlySettings, disabled: copied.value === 0 },
  { does: `Duplicate ${which.value} onto free pads`, key: 'padDuplicate', act: clip.duplicate },
  { does: 'Swap the two selected pads', key: 'padSwap', act: clip.swap, disabled: kit.editedPads.length !== 2 },
  { does: `Clear ${which.value}`, key: 'padClear', act: () => kit.edit(`Clear ${which.value}`, state => clearPads(state, kit.editedPads)) },
  { does: `Store ${padLabel(kit.padIndex)} as a pad preset…`, act: presets.storePad, divided: true, disabled: kit.pad.layers.length === 0 },
  { does: `Load a pad preset onto ${padLabel(kit.padIndex)}…`, act: () => emit('presets') },
])
</script>

<template>
  <el-dropdown trigger="click" :persistent="false" @command="(act: () => unknown) => act()">
    <el-button>Pad {{ which }}<el-icon class="el-icon--right"><ArrowDown /></el-icon></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <el-dropdown-item v-for="item in ITEMS" :key="item.does" :command="item.act" :divided="item.divided" :disabled="item.disabled">
          <span class="item"><span>{{ item.does }}</span><kbd v-if="item.key && keys.labelOf(item.key)">{{ keys.labelOf(item.key) }}</kbd></span>
        </el-dropdown-item>
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>

<style scoped>
.item { display: flex; justify-content: space-between; gap: 24px; width: 100%; }
</style>
