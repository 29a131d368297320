<script setup lang="ts">
import type { Family } from '~~/server/library/overview'
import { familyLabel, whole } from '../../composables/useFormat'
import { useShowInList } from '../../composables/useShowInList'

/** Strokes of one instrument, each family to be shown in the list. */
defineProps<{ families: readonly Family[] }>()
const emit = defineEmits<{ shown: [] }>()
const showInList = useShowInList()

function show({ soundId }: Family): void {
  showInList(`family=${soundId}`)
  emit('shown')
}
</script>

<template>
  <p v-if="families.length === 0" class="quiet">
    No two names differ in nothing but velocity or take (v1, rr2, take 3, p, mf, ff).
  </p>
  <template v-else>
    <p class="quiet">
      Strokes of one instrument: their names differ in nothing but velocity and take.
    </p>
    <LongList v-slot="{ item }" :items="families" :key-of="family => family.family">
      <strong>{{ familyLabel(item.family) }}</strong> · {{ whole(item.files) }} strokes <span class="quiet">{{ item.example }} …</span>
      <el-button size="small" text :aria-label="`Show the ${whole(item.files)} strokes of ${familyLabel(item.family)} in the list`" @click="show(item)">
        Show in the list
      </el-button>
    </LongList>
  </template>
</template>
