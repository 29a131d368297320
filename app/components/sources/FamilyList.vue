<script setup lang="ts">
import type { Family } from '~~/server/library/overview'
import { familyLabel, whole } from '../../composables/useFormat'
import { useShowInList } from '../../composables/useShowInList'

/** Strokes of one instrument, each family to be shown in the list. */
const { families, most } = defineProps<{ families: readonly Family[], most: number }>()
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
    <ul class="lines">
      <li v-for="entry in families.slice(0, most)" :key="entry.family">
        <strong>{{ familyLabel(entry.family) }}</strong> · {{ whole(entry.files) }} strokes <span class="quiet">{{ entry.example }} …</span>
        <el-button size="small" text :aria-label="`Show the ${whole(entry.files)} strokes of ${familyLabel(entry.family)} in the list`" @click="show(entry)">
          Show in the list
        </el-button>
      </li>
    </ul>
    <p v-if="families.length > most" class="quiet">
      and {{ whole(families.length - most) }} more
    </p>
  </template>
</template>
