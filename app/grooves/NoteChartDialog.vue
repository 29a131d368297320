<script setup lang="ts">
import { noteChart } from '~~/core/groove/noteChart'
import { useKit } from '../bench'

/** All 128 notes with their names, their General MIDI percussion keys and the pads that they play; to be printed too. */
const open = defineModel<boolean>({ required: true })
const kit = useKit()
const rows = computed(() => open.value ? noteChart(kit.kit) : [])

function print(): void {
  document.body.classList.add('prints-chart')
  window.addEventListener('afterprint', () => document.body.classList.remove('prints-chart'), { once: true })
  window.print()
}
</script>

<template>
  <el-dialog v-model="open" :title="`Notes of ${kit.kit.name}`" width="720" append-to-body class="note-chart">
    <div class="scroll" tabindex="0" role="region" aria-label="Chart of notes">
      <table>
        <thead>
          <tr><th>Note</th><th>Middle C is C3</th><th>Middle C is C4</th><th>General MIDI percussion</th><th>Pads</th></tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="row.note">
            <td class="figure">
              {{ row.note }}
            </td><td class="figure">
              {{ row.middleC3 }}
            </td><td class="figure">
              {{ row.middleC4 }}
            </td><td>{{ row.percussionKey }}</td><td>{{ row.pads.join(', ') }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <template #footer>
      <el-button @click="open = false">
        Close
      </el-button>
      <el-button type="primary" @click="print">
        Print the chart
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.scroll { max-height: 56vh; overflow-y: auto; }
table { width: 100%; border-collapse: collapse; font-size: 12px; }
th { position: sticky; top: 0; background: var(--sheet); text-align: left; }
th, td { padding: 2px 8px; border-bottom: 1px solid var(--rule); }
</style>

<style>
@media print {
  .prints-chart #__nuxt { display: none; }
  .prints-chart, .prints-chart .el-overlay, .prints-chart .el-overlay-dialog, .prints-chart .note-chart { position: static; overflow: visible; height: auto; width: auto; margin: 0; box-shadow: none; background: #fff; color: #000; }
  .prints-chart .note-chart .scroll { max-height: none; overflow: visible; }
  .prints-chart .note-chart footer, .prints-chart .note-chart .el-dialog__headerbtn { display: none; }
}
</style>
