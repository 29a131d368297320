<script setup lang="ts">
import type { Kit } from '~~/core/kit/document'
import { silencingOf, silencingWords } from '~~/core/kit/silencing'
import type { Heard } from '~~/contract/bounce'

/** Which pads mutes and solos leave unheard, before something is rendered, and whether that counts. Shows nothing where all is heard. */
const heard = defineModel<Heard>({ required: true })
const { kits, what } = defineProps<{ kits: readonly Kit[], what: string }>()

const lines = computed(() => kits.flatMap((kit) => {
  const silencing = silencingOf(kit)
  return silencing ? silencingWords(kit, silencing).map(line => kits.length > 1 ? `${kit.name}: ${line}` : line) : []
}))
</script>

<template>
  <div v-if="lines.length > 0" class="silencing" role="group" :aria-label="`Mutes and solos in ${what}`">
    <p v-for="line in lines" :key="line" class="look">
      {{ line }}
    </p>
    <el-radio-group v-model="heard" size="small" :aria-label="`Pads in ${what}`">
      <el-radio value="as heard">
        As heard
      </el-radio>
      <el-radio value="all pads">
        All pads
      </el-radio>
    </el-radio-group>
  </div>
</template>

<style scoped>
.silencing { padding: 4px 8px; border: 1px solid var(--rule); }
.silencing p { margin: 2px 0; }
</style>
