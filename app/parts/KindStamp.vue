<script setup lang="ts">
import { kindLabel, topKind } from '~~/core/search/kinds'

/** The small mark that shows a kind: our own drawings, in one colour. */
const { kind } = defineProps<{ kind: string | null }>()

const DRAWINGS: Readonly<Record<string, string>> = {
  kick: 'M8 2.5a5.5 5.5 0 1 0 .01 0M8 6v4M6.5 13.2 5 15M9.5 13.2 11 15',
  snare: 'M2.5 5.5h11v5h-11zM2.5 7h11M5 10.5v2M8 10.5v2M11 10.5v2',
  rim: 'M2 11h9v3H2zM14.5 2 6.5 11',
  clap: 'M3 12 6 4.5M6 13 9 3.5M9 13l3-8.5M12.5 12 14 8',
  snap: 'M4 14V8l3-2 2-4M9 2l2 5-2 3v4M13 3l1.5-1.5M13.5 6H15',
  hat: 'M1.5 7c4-2.5 9-2.5 13 0M1.5 9c4 2.5 9 2.5 13 0M8 2v3M8 11v4',
  tom: 'M3 5v6c0 1.5 2.2 2.5 5 2.5s5-1 5-2.5V5M8 2.5c2.8 0 5 1.1 5 2.5S10.8 7.5 8 7.5 3 6.4 3 5s2.2-2.5 5-2.5',
  cymbal: 'M1 9.5C5 5.5 11 3.5 15 4.5M1 9.5c4 .8 10-1 14-5M8 7.5V15',
  hand: 'M4 3h8l-1.5 11h-5zM4 3c1 1.6 7 1.6 8 0',
  shaker: 'M9 2.5a3.5 3.5 0 1 1 .01 0M7.5 9 4 15M8 5.5h.01M10 6.5h.01M9 4.5h.01',
  metal: 'M8 2 2 13.5h9.5M8 2l5 9M8 2v-.5',
  wood: 'M2 5.5h12v5H2zM4 8h6',
  voice: 'M5.5 3h5v5.5a2.5 2.5 0 0 1-5 0zM3 8a5 5 0 0 0 10 0M8 13v2',
  effect: 'M1.5 8c2-5 3 5 4.5 0s2 6 3.5 0 2.5 4 5 0',
  tone: 'M5.5 13a2 2 0 1 1 .01-3.5M5.7 11.5V2.5l6 1.5v3',
  loop: 'M4 5h7.5a2.5 2.5 0 0 1 0 6H4.5a2.5 2.5 0 0 1-2.4-3M6 3 4 5l2 2',
}

const drawing = computed(() => kind ? DRAWINGS[topKind(kind)] : undefined)
</script>

<template>
  <svg v-if="drawing" class="stamp" viewBox="0 0 16 16" role="img" :aria-label="kindLabel(kind!)"><title>{{ kindLabel(kind!) }}</title><path :d="drawing" /></svg>
  <span v-else class="stamp quiet" role="img" aria-label="Kind not known">·</span>
</template>

<style scoped>
.stamp { display: inline-block; width: 16px; height: 16px; flex: none; text-align: center; line-height: 16px; }
path { fill: none; stroke: currentColor; stroke-width: 1.3; stroke-linecap: round; stroke-linejoin: round; }
</style>
