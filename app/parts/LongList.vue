<script setup lang="ts" generic="T">
import { whole } from './useFormat'
import type { LongListOf } from './useLongList'
import { saying } from './useSay'

/** A list of any length, of which more is fetched and drawn when it is asked for. */
const { list, keyOf } = defineProps<{ list: LongListOf<T>, keyOf: (item: T) => string }>()
defineSlots<{ default: (props: { item: T }) => unknown }>()
</script>

<template>
  <ul class="lines">
    <li v-for="item in list.shown" :key="keyOf(item)">
      <slot :item="item" />
    </li>
  </ul>
  <p v-if="list.next > 0" class="more">
    <el-button size="small" @click="saying(list.more)">
      Show {{ whole(list.next) }} more
    </el-button>
    <span class="quiet">{{ whole(list.shown.length) }} of {{ whole(list.total) }} are shown.</span>
  </p>
</template>

<style scoped>
.lines { list-style: none; margin: 6px 0; padding: 0; }
.lines li { padding: 4px 0; border-bottom: 1px solid var(--rule); overflow-wrap: anywhere; }
.more { display: flex; align-items: center; gap: 10px; margin: 6px 0; }
</style>
