<script setup lang="ts" generic="T extends string | number">
defineOptions({ inheritAttrs: false })
/** A setting of one or several pads that is chosen from a list. Where they differ it says so, which cannot be chosen. */
const { values, options } = defineProps<{
  label: string
  /** Its name in full, where the label is short. */
  named?: string
  /** What each of the pads has. */
  values: readonly T[]
  options: readonly { readonly value: T, readonly label: string }[]
}>()
const emit = defineEmits<{ choose: [value: T] }>()

const MIXED = 'mixed'
const isMixed = computed(() => values.some(value => value !== values[0]))
const choices = computed(() => [...isMixed.value ? [{ value: MIXED, label: MIXED, disabled: true }] : [], ...options])
</script>

<template>
  <div class="field">
    <span>{{ label }}</span>
    <el-select-v2 v-bind="$attrs" size="small" :model-value="isMixed ? MIXED : values[0]" :options="choices" :aria-label="named ?? label" :class="{ mixed: isMixed }" @update:model-value="$event !== MIXED && emit('choose', $event)" />
  </div>
</template>

<style scoped>
.mixed :deep(.el-select__placeholder) { color: var(--look); }
</style>
