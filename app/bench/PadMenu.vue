<script setup lang="ts">
import { ArrowDown } from '@element-plus/icons-vue'
import { padLabel } from '~~/core/kit/padLabel'
import { usePadMenu } from './usePadMenu'
import { useKit } from './kit'

/** What is done with whole pads: copied, pasted, exchanged, stored by themselves. */
const kit = useKit()
const { which, items } = usePadMenu()
const emit = defineEmits<{ presets: [] }>()
const all = computed(() => [...items.value, { does: `Load a pad preset onto ${padLabel(kit.padIndex)}…`, act: () => emit('presets') }])
</script>

<template>
  <el-dropdown trigger="click" :persistent="false" @command="(act: () => unknown) => act()">
    <el-button>Pad {{ which }}<el-icon class="el-icon--right"><ArrowDown /></el-icon></el-button>
    <template #dropdown>
      <el-dropdown-menu>
        <MenuItems :items="all" />
      </el-dropdown-menu>
    </template>
  </el-dropdown>
</template>
