<script setup lang="ts">
import type { MenuItem } from '../parts/menu'

/** The entries of a menu, each with its key. */
defineProps<{ items: readonly MenuItem[] }>()
</script>

<template>
  <el-dropdown-item v-for="item in items" :key="item.does" :command="item.act" :divided="item.divided" :disabled="item.disabled">
    <span class="item"><span>{{ item.does }}</span><kbd v-if="item.key">{{ item.key }}</kbd></span>
  </el-dropdown-item>
</template>

<style scoped>
.item { display: flex; justify-content: space-between; gap: 24px; width: 100%; }
</style>
