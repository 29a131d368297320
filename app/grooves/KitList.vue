<script setup lang="ts">
import type { LedgerColumn } from '../parts/LedgerTable.vue'
import { say, saying } from '../parts/useSay'
import { useAuditionKits } from './auditionKits'
import { useCompany } from './company'
import { useGrooves } from './grooves'
import { useKit } from '../bench'

/** Kits and presets: stepping through them plays each on the current pattern; one can be taken, or play along. */
const heard = useAuditionKits()
const kit = useKit()
const grooves = useGrooves()
const company = useCompany()
const words = ref('')
const COLUMNS: readonly LedgerColumn[] = [
  { key: 'name', title: 'Kit', width: 140, grows: true },
  { key: 'type', title: 'What', width: 56 },
  { key: 'pads', title: 'Pads', width: 40, align: 'right' },
]

onMounted(() => void saying(heard.load))
onUnmounted(() => heard.end())

const found = computed(() => heard.all.filter(one => words.value.toLowerCase().split(/\s+/).every(word => one.name.toLowerCase().includes(word))))
const rowAt = (index: number) => found.value[index]
const atCursor = computed(() => found.value[heard.cursor])

async function goTo(index: number): Promise<void> {
  heard.cursor = Math.max(0, Math.min(found.value.length - 1, index))
  const one = atCursor.value
  if (!one) return
  await saying(async () => {
    if (one.type === 'kit' && one.id === kit.id) heard.end()
    else await heard.hear(one)
    if (!grooves.isRunning) await grooves.play()
  })
}

async function take(): Promise<void> {
  const name = heard.heard?.name
  if (await saying(async () => (await heard.take(), true)) && name) say(`"${name}" is open, with the same pattern.`)
}

async function keydown(event: KeyboardEvent): Promise<void> {
  const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 }[event.key]
  const act = step !== undefined ? () => goTo(heard.cursor + step) : { Enter: take, Escape: () => heard.end() }[event.key]
  if (!act) return
  event.preventDefault()
  event.stopPropagation()
  await act()
}

const isInvited = (id: string) => company.along.some(one => one.id === id)
</script>

<template>
  <div class="find">
    <el-input v-model="words" size="small" placeholder="Words" aria-label="Find kits" clearable />
  </div>
  <LedgerTable label="Kits and presets" :columns="COLUMNS" :total="found.length" :row-at="rowAt" :cursor="heard.cursor" class="list" @press="goTo($event)" @keydown="keydown">
    <template #cell="{ column, row }">
      <span v-if="column === 'name'" class="cut" :title="row.name">{{ row.name }}<span v-if="row.id === kit.id" class="quiet"> · current</span><span v-if="heard.heard?.id === row.id" class="heard"> · preview</span><span v-if="isInvited(row.id)" class="heard"> · plays along</span></span>
      <span v-else-if="column === 'type'" class="quiet">{{ row.type === 'kit' ? 'open' : 'preset' }}</span>
      <span v-else class="figure">{{ row.pads }}</span>
    </template>
  </LedgerTable>
  <p class="about quiet">
    {{ heard.heard ? `"${heard.heard.name}" is previewed instead of "${kit.kit.name}". Enter opens it, Esc goes back.` : 'Arrow keys preview each with the pattern.' }}
  </p>
  <p class="acts">
    <el-button size="small" type="primary" :disabled="!heard.isOn" @click="take">
      Open
    </el-button>
    <el-button size="small" :disabled="!heard.isOn" @click="heard.end()">
      Go back
    </el-button>
    <el-button v-if="atCursor && isInvited(atCursor.id)" size="small" @click="company.dismiss(atCursor.id)">
      Without it
    </el-button>
    <el-button v-else size="small" :disabled="!atCursor || atCursor.type !== 'kit' || atCursor.id === kit.id" title="Plays the same pattern together with the current kit, on its own outputs" @click="atCursor && saying(() => company.invite(atCursor!.id))">
      Play along
    </el-button>
  </p>
</template>

<style scoped>
.find { padding: 6px 8px 2px; }
.list { flex: 1; }
.heard { color: var(--accent); }
.about { margin: 0; padding: 4px 8px; font-size: 12px; border-top: 1px solid var(--rule); min-height: 42px; }
.acts { display: flex; gap: 4px; margin: 0; padding: 0 8px 6px; }
.acts .el-button { margin: 0; }
</style>
