<script setup lang="ts">
import { StarFilled } from '@element-plus/icons-vue'
import { noteName } from '~~/core/audio/notes'
import { kindLabel } from '~~/core/search/kinds'
import type { FoundRow } from '~~/server/library/search'
import { FLAG_WORDS } from '../../composables/useFlagWords'
import { kilohertz, lufs, seconds } from '../../composables/useFormat'
import { pictureOf } from '../../composables/useWaveformPainter'
import { usePlayer } from '../../stores/player'
import { useSettings } from '../../stores/settings'

/** One figure of a sound in the list. */
const { row } = defineProps<{ column: string, row: FoundRow, marked: boolean }>()

/** Below this a kind is shown with a question mark. */
const SURE = 0.6

const player = usePlayer()
const settings = useSettings()
const percent = (part: number) => `${Math.round(part * 100)} %`
const note = computed(() => row.pitchNote === null ? '–' : `${noteName(Math.max(0, Math.min(127, Math.round(row.pitchNote))), settings.middleC)}${cents(row.pitchNote)}`)

function cents(value: number): string {
  const off = Math.round((value - Math.round(value)) * 100)
  return off === 0 ? '' : ` ${off > 0 ? '+' : '−'}${Math.abs(off)}`
}
</script>

<template>
  <span v-if="column === 'wave'" class="thumb"><WaveForm :picture="pictureOf(row)" :label="`Waveform of ${row.name}`" /></span>
  <span v-else-if="column === 'name'" class="cut" :title="row.name"><el-icon v-if="row.favourite" class="star" :size="12" aria-label="Favourite"><StarFilled /></el-icon><span v-if="marked" class="mark" title="Marked to compare">≍</span>{{ row.name }}<span v-if="row.foundBy === 'kind'" class="quiet"> · by its kind</span><span v-else-if="row.foundBy === 'near'" class="quiet"> · spelled nearly so</span><span v-if="player.broken.has(row.hash)" class="lost" :title="player.broken.get(row.hash)"> · can't be played</span><span v-if="row.setAside" class="quiet"> · set aside</span><span v-if="row.fileCount > 1" class="quiet"> · {{ row.fileCount }} files</span><span v-if="row.warnings > 0" class="look"> · damaged</span><span v-if="row.flags.length > 0" class="look"> · {{ row.flags.map(flag => FLAG_WORDS[flag].word).join(', ') }}</span><span v-if="row.tags.length > 0" class="quiet"> · {{ row.tags.join(', ') }}</span></span>
  <span v-else-if="column === 'alike'" class="figure">{{ row.nearness ? percent(row.nearness.whole) : '–' }}<span v-if="row.nearness" class="quiet"> ({{ [row.nearness.length, row.nearness.colour, row.nearness.pitch].map(percent).join(', ') }})</span></span>
  <span v-else-if="column === 'kind'" class="kind"><KindStamp :kind="row.kind" /><span class="cut" :class="{ quiet: (row.kindConfidence ?? 0) < SURE }" :title="row.kind ? `${percent(row.kindConfidence ?? 0)} sure` : ''">{{ row.kind ? kindLabel(row.kind) : '' }}{{ row.kind && (row.kindConfidence ?? 0) < SURE ? '?' : '' }}</span></span>
  <span v-else-if="column === 'folder'" class="cut quiet" :title="row.folder">{{ row.folder }}</span>
  <span v-else-if="column === 'length'" class="figure">{{ seconds(row.lengthSeconds) }}</span>
  <span v-else-if="column === 'sounds'" class="figure">{{ row.effectiveSeconds === null ? '–' : seconds(row.effectiveSeconds) }}</span>
  <span v-else-if="column === 'loudness'" class="figure">{{ lufs(row.hitLufs) }}</span>
  <span v-else-if="column === 'bright'" class="figure">{{ row.brightness ?? '–' }}</span>
  <span v-else-if="column === 'note'" class="figure">{{ note }}</span>
  <span v-else-if="column === 'peak'" class="figure">{{ row.truePeakDb === null ? '–' : `${row.truePeakDb.toFixed(1)} dBTP` }}</span>
  <span v-else-if="column === 'rate'" class="figure">{{ kilohertz(row.sampleRate) }}</span>
  <span v-else-if="column === 'bits'" class="figure">{{ row.bitDepth || '–' }}</span>
  <span v-else-if="column === 'channels'">{{ row.channels === 1 ? 'mono' : row.channels === 2 ? 'stereo' : row.channels }}</span>
  <span v-else-if="column === 'tags'" class="cut" :title="row.tags.join(', ')">{{ row.tags.join(', ') }}</span>
  <span v-else class="figure">{{ row.addedAt.slice(0, 10) }}</span>
</template>

<style scoped>
.thumb { display: block; width: 100%; height: 24px; }
.star, .mark { color: var(--accent); margin-right: 4px; vertical-align: -1px; }
.kind { display: flex; align-items: center; gap: 6px; min-width: 0; }
</style>
