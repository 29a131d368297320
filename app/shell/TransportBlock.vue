<script setup lang="ts">
import { VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { FASTEST_BPM, SLOWEST_BPM } from '~~/core/groove/document'
import { tempoShown } from '../parts/useFormat'
import { saying } from '../parts/useSay'
import { useGrooves, useRecording } from '../grooves'
import { useSettings, type GrooveChoice } from '../parts/settings'

/** Playing the current pattern, in every view: play, record, loop, tempo, metronome, count-in. */
const grooves = useGrooves()
const recording = useRecording()
const settings = useSettings()

function set(change: Partial<GrooveChoice>): void {
  settings.groove = { ...settings.groove, ...change }
}

function toggle(): void {
  if (grooves.isRunning) grooves.stop()
  else void saying(() => grooves.play())
}
</script>

<template>
  <section class="transport" aria-label="Pattern">
    <div class="line">
      <el-button size="small" :icon="grooves.isRunning ? VideoPause : VideoPlay" :aria-label="grooves.isRunning ? 'Stop the pattern' : 'Play the pattern'" :title="grooves.pattern.name" @click="toggle" />
      <button type="button" class="chip record" :class="{ on: recording.isOn }" :aria-pressed="recording.isOn" title="Record what is played on the pads" @click="saying(recording.toggle)">
        Record
      </button>
      <button type="button" class="chip" :class="{ on: settings.groove.isLooped }" :aria-pressed="settings.groove.isLooped" title="Loop" @click="set({ isLooped: !settings.groove.isLooped })">
        Loop
      </button>
    </div>
    <div class="line">
      <input class="figure tempo" :value="tempoShown(grooves.bpm)" type="number" :min="SLOWEST_BPM" :max="FASTEST_BPM" step="0.1" aria-label="Tempo of the pattern, in beats a minute" @change="grooves.setTempo(Number(($event.target as HTMLInputElement).value) || grooves.bpm)">
      <button type="button" class="chip" title="Tap the tempo, twice or more" @click="recording.tapTempo($event.timeStamp)">
        Tap
      </button>
      <button type="button" class="chip" :class="{ on: settings.groove.metronome }" :aria-pressed="settings.groove.metronome" title="Metronome" @click="set({ metronome: !settings.groove.metronome })">
        Click
      </button>
      <button type="button" class="chip" :class="{ on: settings.groove.countInBars > 0 }" :aria-pressed="settings.groove.countInBars > 0" :title="`Bars that are counted in before recording: ${settings.groove.countInBars}`" @click="set({ countInBars: (settings.groove.countInBars + 1) % 3 })">
        In {{ settings.groove.countInBars }}
      </button>
    </div>
    <div class="line cut quiet" role="status">
      {{ recording.isOn ? 'Recording into' : '' }} {{ grooves.pattern.name }}
    </div>
  </section>
</template>

<style scoped>
.transport { display: flex; flex-direction: column; gap: 1px; width: 184px; flex: none; padding-right: 10px; border-right: 1px solid var(--rule); }
.line { display: flex; align-items: center; gap: 4px; min-height: 18px; }
.line.cut { display: block; font-size: 12px; min-height: 16px; }
.chip { height: 24px; min-width: 24px; padding: 0 6px; border: 1px solid var(--rule); border-radius: 2px; background: none; color: var(--ink); font-size: 11px; font-weight: 600; white-space: nowrap; cursor: pointer; }
.chip.on { border-color: var(--accent); background: var(--accent); color: var(--on-accent); }
.record.on { border-color: var(--lost); background: var(--lost); color: var(--sheet); }
.tempo { width: 58px; height: 24px; padding: 0 3px; border: 1px solid var(--rule); border-radius: 2px; background: var(--sheet); color: var(--ink); text-align: right; appearance: textfield; }
/* The arrow keys do what they do, and they would cover the last digits. */
.tempo::-webkit-inner-spin-button { display: none; }
</style>
