<script setup lang="ts">
import { VideoPause, VideoPlay } from '@element-plus/icons-vue'
import { useRafFn } from '@vueuse/core'
import { REFERENCE_LUFS } from '~~/core/audio/analysis/loudness'
import { kindLabel } from '~~/core/search/kinds'
import { auditionPosition } from '../../audio/audition'
import { kilohertz, lufs, seconds, signedDb } from '../../composables/useFormat'
import { usePlayer } from '../../stores/player'
import { useSettings } from '../../stores/settings'

const player = usePlayer()
const settings = useSettings()
const played = ref<number | null>(null)

const picture = computed(() => player.outline ? { outline: player.outline } : null)
const figures = computed(() => {
  const row = player.atHand?.row
  if (!row) return []
  return [seconds(row.lengthSeconds), lufs(row.hitLufs), kilohertz(row.sampleRate), row.bitDepth > 0 ? `${row.bitDepth} bit` : row.container, row.channels === 1 ? 'mono' : row.channels === 2 ? 'stereo' : `${row.channels} channels`]
})

const matching = computed(() => {
  if (!settings.matchLevels) return 'as they are'
  return player.atHand?.row ? signedDb(player.gainDb) : `to ${REFERENCE_LUFS} LUFS`
})

useRafFn(() => {
  const now = auditionPosition()
  if (now !== played.value) played.value = now
})
</script>

<template>
  <section class="strip" aria-label="Player">
    <el-button :icon="player.isPlaying ? VideoPause : VideoPlay" :disabled="!player.atHand" :aria-label="player.isPlaying ? 'Stop' : 'Play again'" @click="player.isPlaying ? player.stop() : player.again()" />
    <div class="title">
      <template v-if="player.atHand">
        <div class="line">
          <KindStamp v-if="player.atHand.row" :kind="player.atHand.row.kind" />
          <strong class="cut" :title="player.atHand.title">{{ player.atHand.title }}</strong>
        </div>
        <div class="line quiet cut">
          <span v-if="player.problem" class="lost cut" role="alert">{{ player.problem }}</span>
          <template v-else-if="player.needsGesture">
            <span class="look">The browser waits for a click before it plays. Press <kbd>Space</kbd> or click anywhere.</span>
          </template>
          <template v-else-if="player.atHand.row">
            {{ player.atHand.row.kind ? kindLabel(player.atHand.row.kind) : 'Kind not known' }} · {{ player.atHand.row.folder }}
          </template>
        </div>
      </template>
      <span v-else class="quiet">No sound at hand yet</span>
    </div>
    <div class="wave"><WaveForm :picture="picture" :played="played" :label="player.atHand ? `Waveform of ${player.atHand.title}` : 'No sound'" /></div>
    <div class="figures figure">
      <span v-for="figure in figures" :key="figure">{{ figure }}</span>
    </div>
    <label class="match" :title="`Plays every sound at a loudness of ${REFERENCE_LUFS} LUFS, as far as its peak allows`">
      <el-switch v-model="settings.matchLevels" size="small" aria-label="Match levels" />
      <span>Match levels<br><span class="figure quiet">{{ matching }}</span></span>
    </label>
    <OutputMeter />
    <label class="volume"><span class="quiet">Volume</span><el-slider v-model="settings.volume" :min="0" :max="1" :step="0.01" :show-tooltip="false" aria-label="Volume" /></label>
  </section>
</template>

<style scoped>
.strip { display: flex; align-items: center; gap: 12px; height: 56px; padding: 0 12px; border-top: 1px solid var(--rule); background: var(--sheet); }
.match { display: flex; align-items: center; gap: 8px; font-size: 12px; line-height: 1.2; white-space: nowrap; }
.title { width: 220px; min-width: 0; }
.line { display: flex; align-items: center; gap: 6px; min-width: 0; }
.line.cut { font-size: 12px; display: block; }
.wave { flex: 1; height: 44px; min-width: 120px; }
.figures { display: grid; grid-template-columns: auto auto auto; gap: 0 10px; text-align: right; }
.volume { display: flex; align-items: center; gap: 10px; width: 130px; font-size: 12px; }
.volume .el-slider { flex: 1; }
</style>
