<script setup lang="ts">
import { useSettings } from '../parts/settings'
import { chosenColumns, SOUND_COLUMNS } from './soundColumns'

/** Which columns the list of sounds has, in which order and how wide. */
const open = defineModel<boolean>({ required: true })
const settings = useSettings()

const shown = computed(() => chosenColumns(settings.columns).map(column => column.key))
const entries = computed(() => [...shown.value, ...SOUND_COLUMNS.map(column => column.key).filter(key => !shown.value.includes(key))].map(key => SOUND_COLUMNS.find(column => column.key === key)!))
const widthOf = (key: string) => settings.columns.find(choice => choice.key === key)?.width

function take(keys: readonly string[], widths: Readonly<Record<string, number | undefined>> = {}): void {
  settings.columns = keys.map(key => ({ key, width: key in widths ? widths[key] : widthOf(key) }))
}

function toggle(key: string): void {
  const next = shown.value.includes(key) ? shown.value.filter(other => other !== key) : [...shown.value, key]
  if (next.length > 0) take(next)
}

function move(key: string, step: number): void {
  const from = shown.value.indexOf(key)
  const to = from + step
  if (to < 0 || to >= shown.value.length) return
  take(shown.value.with(from, shown.value[to]!).with(to, key))
}
</script>

<template>
  <el-dialog v-model="open" title="Columns" width="440" top="24px" append-to-body>
    <ul>
      <li v-for="column in entries" :key="column.key">
        <el-checkbox :model-value="shown.includes(column.key)" :label="column.title" @change="toggle(column.key)" />
        <span class="spacer" />
        <template v-if="shown.includes(column.key)">
          <el-input-number :model-value="widthOf(column.key) ?? column.width" :min="36" :max="600" :step="8" size="small" controls-position="right" :aria-label="`Width of ${column.title}`" @change="(width?: number) => take(shown, { [column.key]: width })" />
          <el-button size="small" :aria-label="`${column.title} further left`" @click="move(column.key, -1)">
            ↑
          </el-button>
          <el-button size="small" :aria-label="`${column.title} further right`" @click="move(column.key, 1)">
            ↓
          </el-button>
        </template>
      </li>
    </ul>
    <p class="quiet">
      A column's edge can be dragged as well; with its title in focus, <kbd>Alt ←</kbd> and <kbd>Alt →</kbd> do the same.
    </p>
    <template #footer>
      <el-button @click="settings.columns = []">
        Reset
      </el-button>
      <el-button type="primary" @click="open = false">
        Done
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
ul { margin: 0; padding: 0; list-style: none; }
li { display: flex; align-items: center; gap: 6px; min-height: 30px; border-bottom: 1px solid var(--rule); }
.el-input-number { width: 92px; }
li .el-button { margin-left: 0; }
</style>
