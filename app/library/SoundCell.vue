<script setup lang="ts">
import { StarFilled } from '@element-plus/icons-vue'
import { kindLabel } from '~~/core/search/kinds'
import type { FoundRow } from '~~/contract/library'
import { FLAG_WORDS } from '../parts/useFlagWords'
import { pictureOf } from '../parts/useWaveformPainter'
import { useCompare } from './compare'
import { usePlayer } from '../sound'

/** What the list says of a sound by more than text. */
const { row } = defineProps<{ column: string, row: FoundRow }>()

/** Below this a kind is shown with a question mark. */
const SURE = 0.6

const player = usePlayer()
const compare = useCompare()
const percent = (part: number) => `${Math.round(part * 100)} %`
</script>

<template>
  <WaveThumb v-if="column === 'wave'" :picture="pictureOf(row)" :label="`Waveform of ${row.name}`" />
  <span v-else-if="column === 'name'" class="cut" :title="row.name"><el-icon v-if="row.favourite" class="star" :size="12" aria-label="Favourite"><StarFilled /></el-icon><span v-if="compare.isMarked(row.hash)" class="mark" title="Marked to compare">≍</span>{{ row.name }}<span v-if="row.foundBy === 'kind'" class="quiet"> · found by kind</span><span v-else-if="row.foundBy === 'near'" class="quiet"> · spelled nearly so</span><span v-if="player.broken.has(row.hash)" class="lost" :title="player.broken.get(row.hash)"> · can't be played</span><span v-if="row.setAside" class="quiet"> · set aside</span><span v-if="row.fileCount > 1" class="quiet"> · {{ row.fileCount }} files</span><span v-if="row.warnings > 0" class="look"> · damaged</span><span v-if="row.flags.length > 0" class="look"> · {{ row.flags.map(flag => FLAG_WORDS[flag].word).join(', ') }}</span><span v-if="row.tags.length > 0" class="quiet"> · {{ row.tags.join(', ') }}</span></span>
  <span v-else-if="column === 'alike'" class="figure">{{ row.nearness ? percent(row.nearness.whole) : '–' }}<span v-if="row.nearness" class="quiet"> ({{ [row.nearness.length, row.nearness.colour, row.nearness.pitch].map(percent).join(', ') }})</span></span>
  <span v-else class="kind"><KindStamp :kind="row.kind" /><span class="cut" :class="{ quiet: (row.kindConfidence ?? 0) < SURE }" :title="row.kind ? `${percent(row.kindConfidence ?? 0)} sure` : ''">{{ row.kind ? kindLabel(row.kind) : '' }}{{ row.kind && (row.kindConfidence ?? 0) < SURE ? '?' : '' }}</span></span>
</template>

<style scoped>
.star, .mark { color: var(--accent); margin-right: 4px; vertical-align: -1px; }
.kind { display: flex; align-items: center; gap: 6px; min-width: 0; }
</style>
