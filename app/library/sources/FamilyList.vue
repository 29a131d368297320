<script setup lang="ts">
import type { Family } from '~~/contract/sources'
import { familyLabel, whole } from '../../parts/useFormat'
import type { LongListOf } from '../../parts/useLongList'
import { useShowInList } from '../useShowInList'

/** Strokes of one instrument, each family to be shown in the list. */
defineProps<{ families: LongListOf<Family> }>()
const emit = defineEmits<{ shown: [] }>()
const showInList = useShowInList()

function show({ soundId }: Family): void {
  showInList(`family=${soundId}`)
  emit('shown')
}
</script>

<template>
  <p v-if="!families.last" class="quiet">
    Looking…
  </p>
  <p v-else-if="families.total === 0" class="quiet">
    No two names differ in nothing but velocity or take (v1, rr2, take 3, p, mf, ff).
  </p>
  <template v-else>
    <p class="quiet">
      Strokes of one instrument: their names differ in nothing but velocity and take.
    </p>
    <LongList v-slot="{ item }" :list="families" :key-of="family => family.family">
      <strong>{{ familyLabel(item.family) }}</strong> · {{ whole(item.files) }} strokes <span class="quiet">{{ item.example }} …</span>
      <el-button size="small" text :aria-label="`Show the ${whole(item.files)} strokes of ${familyLabel(item.family)} in the list`" @click="show(item)">
        Show in the list
      </el-button>
    </LongList>
  </template>
</template>
