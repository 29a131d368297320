<script setup lang="ts">
import { setPattern } from '~~/core/groove/edits'
import { useCommands } from '../parts/useCommands'
import { backToView, useFirstFocus } from '../parts/useFirstFocus'
import { useKit, usePadKeys } from '../bench'
import { usePatternActions } from './usePatternActions'
import { usePatternRows } from './usePatternRows'
import { say, saying } from '../parts/useSay'
import { useDoors } from '../parts/doors'
import { useGrooves } from './grooves'
import { useKeyChoices } from '../parts/keys/keys'
import { useRecording } from './recording'
import { useSettings } from '../parts/settings'

const kit = useKit()
const grooves = useGrooves()
const recording = useRecording()
const settings = useSettings()
const actions = usePatternActions()
const rows = usePatternRows()
const grid = useTemplateRef<{ focus: () => void }>('grid')
const panel = useTemplateRef<{ next: () => void, open: (name: 'try-out') => void }>('panel')
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const exportOpen = ref(false)
const chartOpen = ref(false)
const midiFile = shallowRef<File>()
const midiFiles = shallowRef<readonly File[]>([])
usePadKeys()
useFirstFocus(grid)
onMounted(() => void saying(grooves.openFirst))

const keys = useKeyChoices()
const hints = computed(() => [{ keys: ['A–K', 'Z–,'], does: 'play (Shift: hard)' }, ...keys.hints(['groovePlay', 'grooveRecord', 'stepDraw', 'grooveTryOut', 'keys'])])

function takeFile(event: Event): void {
  const input = event.target as HTMLInputElement
  takeMidi([...input.files ?? []])
  input.value = ''
}

/** One file is looked into; several are imported as they are. */
function takeMidi(files: readonly File[]): void {
  if (files.length === 1) midiFile.value = files[0]
  else midiFiles.value = files
}

const doors = useDoors()
watch(() => doors.midi, (files) => {
  if (files.length === 0) return
  doors.midi = []
  takeMidi(files)
}, { immediate: true })

function setZoomed(factor: number): void {
  actions.zoom(factor)
}

const playing = (step: number) => {
  const velocity = Math.max(1, Math.min(127, settings.playing.velocity + step))
  settings.playing = { ...settings.playing, velocity }
  say(`Keys play and draw at velocity ${velocity}.`)
}

useCommands('grooves', {
  groovePlay: () => grooves.isRunning ? grooves.stop() : void saying(() => grooves.play()),
  grooveRecord: () => void saying(recording.toggle),
  stepNext: () => actions.moveCursor(1),
  stepPrevious: () => actions.moveCursor(-1),
  stepExtendNext: () => actions.moveCursor(1, true),
  stepExtendPrevious: () => actions.moveCursor(-1, true),
  rowNext: () => actions.moveRow(1),
  rowPrevious: () => actions.moveRow(-1),
  rowExtendNext: () => actions.moveRow(1, true),
  rowExtendPrevious: () => actions.moveRow(-1, true),
  barNext: () => actions.moveBar(1),
  barPrevious: () => actions.moveBar(-1),
  stepDraw: () => actions.drawOrErase(),
  hitErase: () => actions.erase(),
  hitLater: () => actions.shift(grooves.stepTicks),
  hitEarlier: () => actions.shift(-grooves.stepTicks),
  hitTickLater: () => actions.shift(10),
  hitTickEarlier: () => actions.shift(-10),
  hitDown: () => actions.shiftRows(1),
  hitUp: () => actions.shiftRows(-1),
  hitLouder: () => actions.louder(5),
  hitSofter: () => actions.louder(-5),
  hitAll: () => actions.chooseAll(),
  hitRow: () => actions.chooseRow(),
  hitCopy: () => actions.copy(),
  hitCut: () => actions.cut(),
  hitPaste: () => actions.paste(),
  barRepeat: () => actions.repeatBar(),
  hitQuantize: () => actions.quantizeChosen(),
  hitAsPlayed: () => actions.asPlayedChosen(),
  grooveLoop: () => actions.loopHere(),
  grooveMetronome: () => settings.groove = { ...settings.groove, metronome: !settings.groove.metronome },
  grooveTap: event => recording.tapTempo(event.timeStamp),
  grooveMute: () => void rows.toggle(rows.rowAtHand.value, 'muted'),
  grooveSolo: () => void rows.toggle(rows.rowAtHand.value, 'soloed'),
  grooveAlone: () => rows.isAlone.value = !rows.isAlone.value,
  grooveTryOut: () => panel.value?.open('try-out'),
  groovePanel: () => panel.value?.next(),
  grooveZoomIn: () => setZoomed(1.5),
  grooveZoomOut: () => setZoomed(1 / 1.5),
  grooveSofter: () => playing(-10),
  grooveHarder: () => playing(10),
  grooveUndo: () => grooves.undo(),
  grooveRedo: () => grooves.redo(),
  grooveOut: () => exportOpen.value = true,
  grooveBack: () => {
    if (actions.letGo()) return
    kit.stopAll()
    grid.value?.focus()
  },
})
</script>

<template>
  <div class="view">
    <header class="bar">
      <h1 class="visually-hidden">
        Grooves
      </h1>
      <el-input :model-value="grooves.pattern.name" class="name" maxlength="120" aria-label="Name of the pattern" @update:model-value="$event && grooves.edit('Rename the pattern', pattern => setPattern(pattern, { name: $event }), 'pattern-name')" @keydown.enter="backToView" />
      <UndoButtons :key="grooves.id" :of="grooves" />
      <SaveState :of="grooves">
        <template v-if="grooves.isShipped" #default>
          Edits make a copy
        </template>
      </SaveState>
      <div class="spacer" />
      <el-button @click="saying(() => grooves.create())">
        New pattern
      </el-button>
      <el-button @click="saying(grooves.copyToWorkOn)">
        Copy
      </el-button>
      <el-button @click="chooser?.click()">
        Import MIDI…
      </el-button>
      <el-button @click="chartOpen = true">
        Notes…
      </el-button>
      <el-button type="primary" @click="exportOpen = true">
        Export…
      </el-button>
      <input ref="chooser" type="file" accept=".mid,.midi,audio/midi" class="visually-hidden" tabindex="-1" aria-label="MIDI files" multiple @change="takeFile">
    </header>
    <GrooveBar />
    <div class="work">
      <PatternGrid ref="grid" />
      <GroovePanel ref="panel" />
    </div>
    <FootLine :hints="hints" />
    <ExportDialog v-model="exportOpen" />
    <MidiDialog v-model="midiFile" />
    <MidiFilesDialog v-model="midiFiles" />
    <NoteChartDialog v-model="chartOpen" />
  </div>
</template>

<style scoped>
.name { width: 170px; min-width: 80px; }
.name :deep(input) { font-weight: 600; }
.work { display: flex; flex: 1; min-height: 0; }
</style>
