<script setup lang="ts">
import { usualChannels, type MidiPattern } from '~~/core/groove/midi/toPattern'
import { countHits } from '~~/core/groove/document'
import { MidiReader, patternNameOf } from '../sound'
import { beatsAMinute, counted } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useGrooves } from './grooves'

/** What is taken of a MIDI file: its channels and bars. */
const file = defineModel<File | undefined>({ required: true })

const grooves = useGrooves()
const made = shallowRef<MidiPattern>()
const channels = ref<number[]>([])
const fromBar = ref(1)
const bars = ref(8)
let reader: MidiReader | undefined

const isOpen = computed({ get: () => made.value !== undefined, set: open => open || close() })

function close(): void {
  reader?.close()
  reader = undefined
  made.value = undefined
  file.value = undefined
}

watch(file, async (chosen) => {
  if (!chosen) return
  reader?.close()
  reader = new MidiReader()
  const own = reader
  const read = await saying(async () => own.read(new Uint8Array(await chosen.arrayBuffer()), { name: patternNameOf(chosen) }))
  if (!read) return close()
  fromBar.value = 1
  bars.value = read.pattern.bars
  channels.value = usualChannels(read.channels)
  made.value = read
}, { immediate: true })

async function choose(): Promise<void> {
  const chosen = file.value
  const own = reader
  if (!chosen || !own || channels.value.length === 0) return
  const again = await saying(() => own.choose({ name: patternNameOf(chosen), channels: new Set(channels.value), fromBar: fromBar.value - 1, bars: bars.value }))
  if (again && own === reader) made.value = again
}
watch([channels, fromBar, bars], () => void choose())

async function take(): Promise<void> {
  const pattern = made.value?.pattern
  if (!pattern) return
  if (!await saying(async () => (await grooves.create(pattern), true))) return
  say(`Pattern "${pattern.name}" was imported, with ${counted(countHits(pattern), 'hit')}.`)
  close()
}
</script>

<template>
  <el-dialog v-model="isOpen" :title="`Import ${file?.name ?? ''}`" width="520" append-to-body>
    <template v-if="made">
      <p>{{ counted(countHits(made.pattern), 'hit') }} in {{ counted(made.pattern.parts.length, 'part') }}, {{ beatsAMinute(made.pattern.tempoBpm) }}, {{ made.pattern.metre.beats }}/{{ made.pattern.metre.unit }}, {{ counted(made.pattern.bars, 'bar') }} of {{ made.bars }}.</p>
      <el-form label-position="left" label-width="90">
        <el-form-item label="Channels">
          <el-checkbox-group v-model="channels" size="small">
            <el-checkbox v-for="[channel, notes] in made.channels" :key="channel" :value="channel">
              {{ channel }} <span class="quiet">({{ notes }})</span>
            </el-checkbox>
          </el-checkbox-group>
        </el-form-item>
        <el-form-item label="From bar">
          <el-input-number v-model="fromBar" size="small" :min="1" :max="made.bars" aria-label="First bar" />
        </el-form-item>
        <el-form-item label="Bars">
          <el-input-number v-model="bars" size="small" :min="1" :max="256" aria-label="How many bars" />
        </el-form-item>
      </el-form>
      <ul v-if="made.notes.length > 0" class="look" role="status">
        <li v-for="note in made.notes" :key="note">
          {{ note }}
        </li>
      </ul>
    </template>
    <template #footer>
      <el-button @click="close">
        Cancel
      </el-button>
      <el-button type="primary" :disabled="!made || countHits(made.pattern) === 0" @click="take">
        Import pattern
      </el-button>
    </template>
  </el-dialog>
</template>
