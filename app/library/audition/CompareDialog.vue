<script setup lang="ts">
import { averageSpectrum } from '~~/core/audio/analysis/averageSpectrum'
import { noteName } from '~~/core/audio/notes'
import { kindLabel } from '~~/core/search/kinds'
import type { SoundRow } from '~~/contract/library'
import { auditionSeconds, loadSound, soundUrl, usePlayer } from '../../sound'
import { handleCommand } from '../../parts/useCommands'
import { counted, kilohertz, lufs, seconds, signedDb } from '../../parts/useFormat'
import { useCompare } from '../compare'
import { useKeyChoices } from '../../parts/keys/keys'
import { useSettings } from '../../parts/settings'
import { useTray } from '../../tray'

/** Two to eight sounds side by side, switched in place by key, with their names hidden if wanted. */
const compare = useCompare()
const player = usePlayer()
const settings = useSettings()
const tray = useTray()
const keys = useKeyChoices()

interface Heard {
  readonly outline: Int8Array
  readonly spectrum: Float32Array
  readonly seconds: number
  readonly peak: number
}

const heard = shallowReactive(new Map<string, Heard>())

watch([() => compare.isOpen, () => compare.rows], async ([isOpen]) => {
  if (!isOpen) return
  for (const row of compare.rows) {
    if (heard.has(row.hash)) continue
    const sound = await loadSound(soundUrl(row.hash)).catch(() => undefined)
    if (!sound) continue
    const channels = Array.from({ length: sound.buffer.numberOfChannels }, (_, i) => sound.buffer.getChannelData(i))
    heard.set(row.hash, { outline: sound.outline, spectrum: averageSpectrum(channels, sound.buffer.sampleRate), seconds: sound.buffer.duration, peak: row.peak })
    // One after the other, so that the page stays free in between.
    await new Promise(resolve => setTimeout(resolve))
  }
})

const longest = computed(() => Math.max(0.05, ...compare.rows.map(row => heard.get(row.hash)?.seconds ?? row.lengthSeconds)))

function show(index: number, pressedAt?: number): void {
  const wanted = (index + compare.rows.length) % compare.rows.length
  const before = compare.cursor
  compare.cursor = wanted
  const row = compare.rows[wanted]
  // What repeats goes on from the same place, so that nothing but the sound is another.
  const place = player.isLooped && wanted !== before ? auditionSeconds() ?? 0 : 0
  if (row) void player.playRow(row, pressedAt, place < row.lengthSeconds ? place : 0)
}

/** Names are hidden only as long as sounds are compared. */
function closed(): void {
  player.stop()
  compare.isBlind = false
}

function choose(): void {
  const row = compare.atCursor
  if (!row) return
  compare.isBlind = false
  void tray.add([row])
}

function onKey(event: KeyboardEvent): void {
  const number = /^[1-8]$/.test(event.key) && !event.ctrlKey && !event.altKey ? Number(event.key) : undefined
  if (number !== undefined && number <= compare.rows.length) show(number - 1, event.timeStamp)
  else if (event.target instanceof HTMLElement && event.target.closest('button') && (event.key === 'Enter' || event.key === ' ')) return
  else if (!handleCommand(event, 'compare', handlers)) return
  event.preventDefault()
  event.stopPropagation()
}

const handlers = {
  compareNext: (event: KeyboardEvent) => show(compare.cursor + 1, event.timeStamp),
  comparePrevious: (event: KeyboardEvent) => show(compare.cursor - 1, event.timeStamp),
  comparePlay: (event: KeyboardEvent) => player.isPlaying ? player.stop() : show(compare.cursor, event.timeStamp),
  compareLoop: () => void (player.isLooped = !player.isLooped),
  compareBlind: () => compare.isBlind ? void (compare.isBlind = false) : compare.goBlind(),
  compareChoose: choose,
  compareDrop: () => compare.atCursor && compare.remove([compare.atCursor.hash]),
}

type Figure = readonly [title: string, of: (row: SoundRow) => string, value: (row: SoundRow) => number | string | null]
const FIGURES: readonly Figure[] = [
  ['Kind', row => row.kind ? kindLabel(row.kind) : 'not known', row => row.kind],
  ['Length', row => seconds(row.lengthSeconds), row => row.lengthSeconds],
  ['Length heard', row => row.effectiveSeconds === null ? '–' : seconds(row.effectiveSeconds), row => row.effectiveSeconds],
  ['Loudness', row => lufs(row.hitLufs), row => row.hitLufs],
  ['True peak', row => row.truePeakDb === null ? '–' : `${row.truePeakDb.toFixed(1)} dBTP`, row => row.truePeakDb],
  ['Brightness', row => String(row.brightness ?? '–'), row => row.brightness],
  ['Pitch', row => row.pitchNote === null ? '–' : noteName(Math.max(0, Math.min(127, Math.round(row.pitchNote))), settings.middleC), row => row.pitchNote],
  ['Rate', row => kilohertz(row.sampleRate), row => row.sampleRate],
  ['Channels', row => row.channels === 1 ? 'mono' : row.channels === 2 ? 'stereo' : String(row.channels), row => row.channels],
  ['Played at', row => signedDb(player.gainOf(row)), () => ''],
]

/** How far apart two figures must lie to be marked: what is heard as another. */
const APART: Readonly<Record<string, number>> = { 'Length': 0.1, 'Length heard': 0.05, 'Loudness': 1, 'True peak': 1, 'Brightness': 8, 'Pitch': 0.5 }

/** True where a sound's figure stands apart from the current one; what is not known of either does not. */
function differs([title, , value]: Figure, row: SoundRow): boolean {
  const [own, other] = [value(row), compare.atCursor ? value(compare.atCursor) : null]
  if (own === null || other === null) return false
  if (typeof own === 'number' && typeof other === 'number') return Math.abs(own - other) > (APART[title] ?? 0)
  return own !== other
}

const nameOf = (row: SoundRow, index: number) => compare.isBlind ? `Sound ${index + 1}` : row.name
const hints = computed(() => [{ keys: ['1', '8'], does: 'switch to it' }, ...keys.hints(['comparePlay', 'compareBlind', 'compareChoose', 'compareDrop'])])
</script>

<template>
  <el-dialog v-model="compare.isOpen" :title="`Compare ${counted(compare.rows.length, 'sound')}`" width="96%" top="4vh" append-to-body @closed="closed">
    <div class="sheet" tabindex="0" aria-label="Sounds that are compared" @keydown="onKey">
      <div class="columns" :style="{ gridTemplateColumns: `110px repeat(${compare.rows.length}, minmax(0, 1fr))` }">
        <span class="quiet">{{ settings.matchLevels ? 'Levels matched' : 'Levels not matched' }}</span>
        <button v-for="(row, i) in compare.rows" :key="row.hash" type="button" class="name" :class="{ 'at-hand': i === compare.cursor }" :aria-pressed="i === compare.cursor" @click="show(i, $event.timeStamp)">
          <kbd>{{ i + 1 }}</kbd> <span class="cut" :title="nameOf(row, i)">{{ nameOf(row, i) }}</span>
        </button>
        <span class="quiet">Waveform, all to one scale</span>
        <div v-for="(row, i) in compare.rows" :key="`w${row.hash}`" class="wave" :class="{ 'at-hand': i === compare.cursor }">
          <div v-if="heard.get(row.hash)" :style="{ width: `${heard.get(row.hash)!.seconds / longest * 100}%` }">
            <WaveForm :picture="{ outline: heard.get(row.hash)!.outline }" :label="`Waveform of ${nameOf(row, i)}`" />
          </div>
        </div>
        <span class="quiet">Spectrum, 30 Hz to 18 kHz, 60 dB</span>
        <div v-for="(row, i) in compare.rows" :key="`s${row.hash}`" class="wave" :class="{ 'at-hand': i === compare.cursor }">
          <SpectrumView v-if="heard.get(row.hash)" :bands="heard.get(row.hash)!.spectrum" :label="`Spectrum of ${nameOf(row, i)}`" />
        </div>
        <template v-for="figure in compare.isBlind ? [] : FIGURES" :key="figure[0]">
          <span class="quiet">{{ figure[0] }}</span>
          <span v-for="(row, i) in compare.rows" :key="row.hash" class="figure value" :class="{ 'at-hand': i === compare.cursor, 'look': i !== compare.cursor && differs(figure, row) }">{{ figure[1](row) }}{{ i !== compare.cursor && differs(figure, row) ? ' ≠' : '' }}</span>
        </template>
      </div>
      <FootLine :hints="hints" />
    </div>
    <template #footer>
      <el-button @click="compare.clear()">
        Clear marks
      </el-button>
      <el-button @click="compare.isBlind ? (compare.isBlind = false) : compare.goBlind()">
        {{ compare.isBlind ? 'Show the names' : 'Hide the names and mix the order' }}
      </el-button>
      <el-button type="primary" :disabled="!compare.atCursor" @click="choose">
        Choose {{ compare.atCursor ? nameOf(compare.atCursor, compare.cursor) : '' }}: to the tray
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.columns { display: grid; gap: 0 1px; max-height: 62vh; overflow-y: auto; }
.columns > * { padding: 4px 6px; border-bottom: 1px solid var(--rule); min-width: 0; }
.name { display: flex; align-items: center; gap: 6px; border: 0; border-bottom: 1px solid var(--rule); background: none; color: inherit; font: inherit; font-weight: 600; text-align: left; cursor: pointer; }
.wave { height: 84px; }
.wave > div { height: 100%; }
.value { text-align: right; }
</style>
