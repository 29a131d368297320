<script setup lang="ts">
import type { HistoryEntry } from '~~/core/document/history'

/** Every edit in words; a press steps to the state after it. */
const props = defineProps<{ steps: readonly HistoryEntry[], label: string }>()
const emit = defineEmits<{ step: [offset: number] }>()

const list = useTemplateRef<HTMLElement>('list')
const entries = computed(() => props.steps.toReversed())

watch(() => props.steps, () => nextTick(() => list.value?.querySelector('.here')?.scrollIntoView({ block: 'nearest' })), { immediate: true })

function keydown(event: KeyboardEvent): void {
  const way = { ArrowDown: -1, ArrowUp: 1 }[event.key]
  if (way === undefined) return
  event.preventDefault()
  event.stopPropagation()
  emit('step', way)
}
</script>

<template>
  <div ref="list" class="history" role="listbox" tabindex="0" :aria-label="label" @keydown="keydown">
    <div v-for="{ offset, label: does } in entries" :key="offset" class="step" role="option" :aria-selected="offset === 0" :class="{ here: offset === 0, undone: offset > 0 }" @click="emit('step', offset)">
      <span class="figure quiet">{{ offset > 0 ? `+${offset}` : offset }}</span><span class="cut" :title="does">{{ does }}</span><span v-if="offset === 0" class="quiet">current state</span><span v-else-if="offset > 0" class="quiet">undone</span>
    </div>
  </div>
</template>

<style scoped>
.history { flex: 1; min-height: 0; overflow-y: auto; padding: 2px 12px; font-size: 12px; }
.step { display: grid; grid-template-columns: 36px minmax(0, 1fr) auto; align-items: center; gap: 8px; height: 24px; border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); cursor: pointer; }
.here { --quiet: var(--ink); background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
.undone { color: var(--quiet); }
</style>
