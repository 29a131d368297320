<script setup lang="ts">
import { PAD_LETTERS } from '../../parts/keys/padLetters'
import { useHeld } from '../held'

/** The last sounds that were heard, each under a key. */
const held = useHeld()
</script>

<template>
  <section class="held" aria-label="Held sounds">
    <p>
      <strong>Held sounds</strong> <span class="quiet">Shift is harder · notes from 36 on play them as well · <kbd>Esc</kbd> releases all</span>
      <el-button size="small" @click="held.letGo()">
        Release all
      </el-button>
    </p>
    <ol>
      <li v-for="(row, place) in held.rows" :key="row.hash">
        <button type="button" class="pad" :class="{ lit: held.lit.has(place) }" :title="row.name" @pointerdown="held.strike(place, 100)" @pointerup="held.lit.delete(place)" @pointerleave="held.lit.delete(place)">
          <kbd>{{ PAD_LETTERS[place] }}</kbd><span class="cut">{{ row.name }}</span>
        </button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.held { padding: 4px 12px 8px; border-top: 1px solid var(--rule); background: var(--sheet); }
p { display: flex; align-items: center; gap: 10px; margin: 0 0 4px; }
p .el-button { margin-left: auto; }
ol { display: grid; grid-template-columns: repeat(8, minmax(0, 1fr)); margin: 0; padding: 0; list-style: none; border-top: 1px solid var(--rule); border-left: 1px solid var(--rule); }
.pad { display: flex; width: 100%; align-items: center; gap: 6px; height: 30px; padding: 0 6px; border: 0; border-right: 1px solid var(--rule); border-bottom: 1px solid var(--rule); background: none; color: inherit; font: inherit; font-size: 12px; text-align: left; cursor: pointer; }
.lit { background: var(--accent); color: var(--on-accent); }
</style>
