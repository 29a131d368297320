<script setup lang="ts">
import { soundRoutes, type SoundDetail } from '~~/contract/library'
import { VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { useEventListener } from '@vueuse/core'
import { REFERENCE_LUFS } from '~~/core/audio/analysis/loudness'
import { noteName } from '~~/core/audio/notes'
import { kindLabel } from '~~/core/search/kinds'
import { auditionPosition, canChooseDevice, chooseDevice, outputDevices, usePlayer } from '../sound'
import { api } from '../parts/useApi'
import { counted, kilohertz, lufs, seconds, signedDb } from '../parts/useFormat'
import { useFramesWhile } from '../parts/useFramesWhile'
import { say } from '../parts/useSay'
import { useCompare } from '../library'
import { useSettings } from '../parts/settings'

const LOWEST_REFERENCE = -40
const HIGHEST_REFERENCE = -12

const player = usePlayer()
const compare = useCompare()
const settings = useSettings()
const played = ref<number | null>(null)
const detail = shallowRef<SoundDetail>()
const devices = ref<{ id: string, name: string }[]>([])

/** While sounds are compared blind, nothing here may tell which one it is. */
const isHidden = computed(() => compare.isOpen && compare.isBlind)
const shownTitle = computed(() => isHidden.value ? 'Hidden until one is chosen' : player.atHand?.title ?? '')
const picture = computed(() => player.outline ? { outline: player.outline, reverse: player.isReversed } : null)
const row = computed(() => isHidden.value ? null : player.atHand?.row ?? null)

const figures = computed(() => {
  const sound = row.value
  if (!sound) return []
  return [
    ['Length', seconds(sound.lengthSeconds)],
    ['Loudness of the hit', lufs(sound.hitLufs)],
    ['True peak', sound.truePeakDb === null ? '–' : `${sound.truePeakDb.toFixed(1)} dBTP`],
    ['Pitch', sound.pitchNote === null ? 'no pitch' : noteName(Math.max(0, Math.min(127, Math.round(sound.pitchNote))), settings.middleC)],
    ['Format', `${kilohertz(sound.sampleRate)} ${sound.bitDepth > 0 ? `${sound.bitDepth} bit` : sound.container}`],
    ['Channels', sound.channels === 1 ? 'mono' : sound.channels === 2 ? 'stereo' : `${sound.channels} channels`],
  ] as const
})

/** Which kits use it, and where else it lies. */
const uses = computed(() => {
  const known = detail.value
  if (!known || known.hash !== row.value?.hash) return ''
  const { kits, presets } = known.usedIn
  const names = [...kits, ...presets.map(name => `${name} (preset)`)]
  const parts = [
    names.length === 0 ? '' : names.length <= 2 ? `in ${names.join(', ')}` : `in ${names[0]} and ${counted(names.length - 1, 'other', 'others')}`,
    known.places.total > 1 ? counted(known.places.total, 'file') : '',
    known.near.total > 0 ? `${counted(known.near.total, 'near-duplicate')}` : '',
  ]
  return parts.filter(Boolean).join(' · ')
})

// While the cursor runs, only where it stops is asked for.
watch(row, (sound, _before, onCleanup) => {
  if (!sound) return
  const wait = setTimeout(async () => {
    detail.value = await api(soundRoutes.read, { params: { hash: sound.hash } }).catch(() => undefined)
  }, 150)
  onCleanup(() => clearTimeout(wait))
})

const hitMarks = computed(() => {
  const length = row.value?.lengthSeconds ?? 0
  return length > 0 ? player.hits.map(hit => `${hit.startSeconds / length * 100}%`) : []
})

const matching = computed(() => settings.matchLevels ? row.value ? signedDb(player.gainDb) : 'on' : 'as they are')

function playFromClick(event: MouseEvent): void {
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const part = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width))
  const length = row.value?.lengthSeconds
  if (length) player.playFrom((player.isReversed ? 1 - part : part) * length, event.timeStamp)
}

async function findDevices(): Promise<void> {
  devices.value = await outputDevices()
  if (settings.outputDevice !== '' && !devices.value.some(device => device.id === settings.outputDevice)) {
    settings.outputDevice = ''
    say('The selected output is gone; the default output plays now.')
  }
}

watch(() => settings.outputDevice, id => void chooseDevice(id).catch(() => settings.outputDevice = ''))
onMounted(async () => {
  if (!canChooseDevice()) return
  await findDevices()
  if (settings.outputDevice !== '') await chooseDevice(settings.outputDevice).catch(() => settings.outputDevice = '')
})
if ('mediaDevices' in navigator) useEventListener(navigator.mediaDevices, 'devicechange', () => void findDevices())

const showPlayed = useFramesWhile(() => {
  played.value = auditionPosition()
  return player.isPlaying
})
watch(() => player.isPlaying, showPlayed, { immediate: true })
</script>

<template>
  <section class="strip" aria-label="Player">
    <TransportBlock />
    <el-button :icon="player.isPlaying ? VideoPause : VideoPlay" :disabled="!player.atHand" :aria-label="player.isPlaying ? 'Stop' : 'Play again'" @click="player.isPlaying ? player.stop() : player.again()" />
    <div class="title">
      <template v-if="player.atHand">
        <div class="line">
          <KindStamp v-if="row" :kind="row.kind" />
          <strong class="cut" :title="shownTitle">{{ shownTitle }}</strong>
        </div>
        <div class="line quiet cut">
          <span v-if="player.problem" class="lost cut" role="alert" :title="player.problem">{{ player.problem }}</span>
          <template v-else-if="player.needsGesture">
            <span class="look">The browser waits for a click before it plays. Press <kbd>Space</kbd> or click anywhere.</span>
          </template>
          <span v-else-if="row" :title="row.folder">{{ row.kind ? kindLabel(row.kind) : 'Kind not known' }} · {{ row.folder }}</span>
        </div>
        <div class="line quiet cut">
          {{ uses }}
        </div>
      </template>
      <span v-else class="quiet">No sound selected</span>
    </div>
    <div class="wave" title="Click to play from there" @click="playFromClick">
      <WaveForm :picture="picture" :played="played" :label="player.atHand ? `Waveform of ${shownTitle}` : 'No sound'" />
      <span v-for="(left, i) in hitMarks" :key="i" class="hit" :style="player.isReversed ? { right: left } : { left }" />
    </div>
    <div class="how">
      <div class="pair">
        <el-check-tag :checked="player.firstHitOnly" :title="row && row.hits.length > 1 ? `It has ${row.hits.length} hits` : 'It has one hit'" role="switch" tabindex="0" :aria-checked="player.firstHitOnly" @change="player.firstHitOnly = !player.firstHitOnly" @keydown.enter="player.firstHitOnly = !player.firstHitOnly">
          First hit
        </el-check-tag>
        <el-check-tag :checked="player.isLooped" role="switch" tabindex="0" :aria-checked="player.isLooped" @change="player.isLooped = !player.isLooped" @keydown.enter="player.isLooped = !player.isLooped">
          Loop
        </el-check-tag>
        <el-check-tag :checked="player.isReversed" role="switch" tabindex="0" :aria-checked="player.isReversed" @change="player.isReversed = !player.isReversed" @keydown.enter="player.isReversed = !player.isReversed">
          Reverse
        </el-check-tag>
      </div>
      <div class="pair">
        <button type="button" class="step" aria-label="A semitone lower" @click="player.transpose(-1)">
          −
        </button>
        <button type="button" class="step pitch figure" title="Original pitch" @click="player.transpose(0)">
          {{ player.semitones > 0 ? '+' : '' }}{{ player.semitones }} st
        </button>
        <button type="button" class="step" aria-label="A semitone higher" @click="player.transpose(1)">
          +
        </button>
      </div>
    </div>
    <div class="figures figure">
      <span v-for="[title, value] in figures" :key="title" :title="title">{{ value }}</span>
    </div>
    <div class="match">
      <label :title="`Plays every sound at one loudness, as far as its peak stays below -1 dBTP`"><el-switch v-model="settings.matchLevels" size="small" aria-label="Match levels" /> Match levels</label>
      <span class="pair"><el-input-number v-model="settings.referenceLufs" :min="LOWEST_REFERENCE" :max="HIGHEST_REFERENCE" size="small" controls-position="right" :disabled="!settings.matchLevels" :aria-label="`Target loudness in LUFS; default ${REFERENCE_LUFS}`" title="LUFS" /><span class="figure quiet gain">{{ matching }}</span></span>
    </div>
    <div class="out">
      <Deferred>
        <OutputMeter />
        <el-slider v-model="settings.volume" :min="0" :max="1" :step="0.01" size="small" :show-tooltip="false" aria-label="Volume" title="Volume" />
        <el-select v-if="devices.length > 1" v-model="settings.outputDevice" size="small" aria-label="Output device">
          <el-option value="" label="Default output" />
          <el-option v-for="device in devices" :key="device.id" :value="device.id" :label="device.name" />
        </el-select>
      </Deferred>
    </div>
  </section>
</template>

<style scoped>
.strip { display: flex; align-items: center; gap: 12px; height: 78px; padding: 0 12px; border-top: 1px solid var(--rule); background: var(--sheet); }
.title { width: 170px; min-width: 0; }
.line { display: flex; align-items: center; gap: 6px; min-width: 0; min-height: 18px; }
.line.cut { font-size: 12px; display: block; }
.wave { position: relative; flex: 1; height: 64px; min-width: 60px; cursor: text; }
.hit { position: absolute; top: 0; bottom: 0; width: 1px; background: var(--look); pointer-events: none; }
.how { display: flex; flex-direction: column; gap: 4px; }
.pair { display: flex; align-items: center; gap: 4px; }
.el-check-tag { padding: 2px 6px; font-size: 11px; font-weight: 600; line-height: 18px; min-height: 24px; white-space: nowrap; border: 1px solid var(--rule); border-radius: 2px; background: none; color: var(--ink); }
.el-check-tag.is-checked { border-color: var(--accent); background: var(--accent); color: var(--on-accent); }
.step { height: 24px; min-width: 24px; border: 1px solid var(--rule); border-radius: 2px; background: none; color: var(--ink); cursor: pointer; }
.pitch { flex: 1; }
.figures { display: grid; grid-template-columns: auto auto; gap: 2px 10px; text-align: right; font-size: 11px; }
.match { display: flex; flex-direction: column; gap: 4px; font-size: 12px; white-space: nowrap; }
.match label { display: flex; align-items: center; gap: 6px; }
.match .el-input-number { width: 70px; }
.gain { min-width: 56px; text-align: right; }
.out { display: flex; flex-direction: column; gap: 2px; width: 112px; }
.out .el-slider { height: 20px; padding: 0 6px; }
</style>
