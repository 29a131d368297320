<script setup lang="ts" generic="T">
import { whole } from '../../composables/useFormat'

/** A list of which the first lines are drawn, and the rest is counted; `where` says where it can be seen. */
const { items, keyOf, where = '' } = defineProps<{ items: readonly T[], keyOf: (item: T) => string, where?: string }>()
defineSlots<{ default: (props: { item: T }) => unknown }>()

const MOST_SHOWN = 200
</script>

<template>
  <ul class="lines">
    <li v-for="item in items.slice(0, MOST_SHOWN)" :key="keyOf(item)">
      <slot :item="item" />
    </li>
  </ul>
  <p v-if="items.length > MOST_SHOWN" class="quiet">
    and {{ whole(items.length - MOST_SHOWN) }} more{{ where }}
  </p>
</template>

<style scoped>
.lines { margin: 6px 0; padding-left: 18px; }
.lines li { margin-bottom: 3px; overflow-wrap: anywhere; }
</style>
