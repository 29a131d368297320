<script setup lang="ts">
import { countHits } from '~~/core/groove/document'
import { LINES_AT_ONCE, type LongListOf } from '../parts/useLongList'
import { MidiReader, readMidiFiles, type MidiFileRead } from '../sound'
import { beatsAMinute, counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { usePatterns } from './patterns'

/** Several MIDI files: what patterns they make, and which of them are imported. */
const files = defineModel<readonly File[]>({ required: true })

const patterns = usePatterns()
const read = shallowRef<readonly MidiFileRead[]>([])
const excluded = ref(new Set<number>())
const folder = ref('')
const made = ref<number>()
const lines = ref(LINES_AT_ONCE)
let stopping = new AbortController()

const isOpen = computed({ get: () => files.value.length > 0, set: open => open || close() })
const isRead = computed(() => read.value.length === files.value.length)
const numbered = computed(() => read.value.map((one, index) => ({ ...one, index })))
const chosen = computed(() => numbered.value.flatMap(one => 'made' in one && !excluded.value.has(one.index) ? [one.made.pattern] : []))
const unread = computed(() => read.value.filter(one => 'reason' in one).length)
const list = computed<LongListOf<typeof numbered.value[number]>>(() => ({
  shown: numbered.value.slice(0, lines.value),
  total: numbered.value.length,
  last: undefined,
  next: Math.min(LINES_AT_ONCE, Math.max(0, numbered.value.length - lines.value)),
  load: () => Promise.resolve(),
  more: () => Promise.resolve(void (lines.value += LINES_AT_ONCE)),
}))

watch(files, async (several) => {
  stopping.abort()
  const own = stopping = new AbortController()
  read.value = []
  excluded.value = new Set()
  made.value = undefined
  lines.value = LINES_AT_ONCE
  if (several.length === 0) return
  const reader = new MidiReader()
  try {
    for await (const one of readMidiFiles(several, reader)) {
      if (own.signal.aborted) return
      read.value = [...read.value, one]
    }
  }
  finally {
    reader.close()
  }
}, { immediate: true })

function close(): void {
  stopping.abort()
  files.value = []
}

async function importAll(): Promise<void> {
  const several = chosen.value
  const { signal } = stopping
  let count = 0
  made.value = 0
  await saying(() => patterns.createAll(several, folder.value.trim(), { signal, onMade: (soFar) => {
    count = soFar
    if (!signal.aborted) made.value = soFar
  } }))
  say(count === several.length ? `${counted(count, 'pattern')} imported.` : `${count} of ${counted(several.length, 'pattern')} imported.`)
  if (!signal.aborted) close()
}

function include(index: number, isIn: boolean): void {
  const next = new Set(excluded.value)
  if (isIn) next.delete(index)
  else next.add(index)
  excluded.value = next
}
</script>

<template>
  <el-dialog v-model="isOpen" :title="`Import ${counted(files.length, 'MIDI file')}`" width="640" append-to-body>
    <p role="status">
      <template v-if="made !== undefined">
        {{ made }} of {{ counted(chosen.length, 'pattern') }} imported.
      </template>
      <template v-else-if="isRead">
        {{ counted(chosen.length, 'pattern') }} to import<template v-if="unread > 0">
          · {{ counted(unread, 'file') }} cannot be read
        </template>
      </template>
      <template v-else>
        {{ read.length }} of {{ counted(files.length, 'file') }} read
      </template>
    </p>
    <div class="several" tabindex="0" role="region" aria-label="Files">
      <LongList v-slot="{ item }" :list="list" :key-of="one => String(one.index)">
        <el-checkbox v-if="'made' in item" :model-value="!excluded.has(item.index)" @update:model-value="include(item.index, Boolean($event))">
          {{ item.file }}
        </el-checkbox>
        <template v-if="'made' in item">
          <span class="quiet"> {{ counted(countHits(item.made.pattern), 'hit') }}, {{ counted(item.made.pattern.bars, 'bar') }}, {{ beatsAMinute(item.made.pattern.tempoBpm) }}, {{ item.made.pattern.metre.beats }}/{{ item.made.pattern.metre.unit }}</span>
          <span v-for="note in item.made.notes" :key="note" class="look"> {{ note }}</span>
        </template>
        <span v-else class="look">{{ item.file }}: {{ item.reason }}</span>
      </LongList>
    </div>
    <label class="into">Folder <el-input v-model="folder" size="small" maxlength="120" aria-label="Folder of the patterns" /></label>
    <template #footer>
      <el-button @click="close">
        Cancel
      </el-button>
      <el-button type="primary" :disabled="!isRead || chosen.length === 0 || made !== undefined" @click="importAll">
        Import {{ counted(chosen.length, 'pattern') }}
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.several { max-height: 46vh; overflow-y: auto; border: 1px solid var(--rule); padding: 0 8px; }
.into { display: flex; align-items: center; gap: 8px; margin-top: 10px; white-space: nowrap; }
</style>
