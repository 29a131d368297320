<script setup lang="ts">
import { libraryRoutes, type NearGroup, type NearGroups, type SoundRow } from '~~/contract/library'
import { api } from '../../parts/useApi'
import { counted, kilohertz, lufs, seconds, whole } from '../../parts/useFormat'
import { say, saying } from '../../parts/useSay'
import { useShowInList } from '../useShowInList'
import { pictureOf } from '../../parts/useWaveformPainter'
import { useJobs } from '../../parts/jobs'
import { newest } from '../../parts/newest'
import { usePlayer } from '../../sound'

/** Recordings that lie in the library in several forms, each group to be heard and shown in the list. Strokes of one family are kept apart: layers are mostly made of one recording. */
const emit = defineEmits<{ shown: [] }>()
const showInList = useShowInList()

const PAGE = 20
const jobs = useJobs()
const player = usePlayer()
const found = shallowRef<NearGroups>()
const groups = shallowRef<readonly NearGroup[]>([])
const withStrokes = ref(false)
const isComparing = computed(() => jobs.active.some(job => job.kind === 'compare'))
const total = computed(() => found.value ? found.value.others + (withStrokes.value ? found.value.strokes : 0) : 0)

const load = newest(
  (kept: readonly NearGroup[]) => api(libraryRoutes.near, { query: { limit: PAGE, offset: kept.length, strokes: withStrokes.value } }),
  (page, kept) => {
    found.value = page
    groups.value = [...kept, ...page.shown]
  },
)

async function compare(): Promise<void> {
  await saying(async () => {
    const result = await jobs.finished(await api(libraryRoutes.compare))
    say(`${counted(result.compared, 'pair')} of ${counted(result.sounds, 'sound')} laid over each other: ${counted(result.found, 'pair')} found to be one recording.`)
  })
}

function show(group: NearGroup): void {
  showInList(`same=${group.sounds[0]!.id}`)
  emit('shown')
}

/** How well the pairs of a group fit, in per cent. */
function fit({ least, best }: NearGroup): string {
  const [low, high] = [least, best].map(part => (part * 100).toFixed(1))
  return low === high ? `${low} % alike` : `${low} to ${high} % alike`
}

function figuresOf(row: SoundRow): string {
  return [lufs(row.hitLufs), seconds(row.lengthSeconds), kilohertz(row.sampleRate), ...row.bitDepth > 0 ? [`${row.bitDepth} bit`] : []].join(' · ')
}

// What was found before is shown while they are looked for; the search may have been begun before this was opened, or outlive it.
watch([isComparing, withStrokes], () => void saying(() => load([])), { immediate: true })
</script>

<template>
  <section aria-labelledby="same-recording">
    <h2 id="same-recording">
      The same recording
    </h2>
    <p class="quiet">
      At another level, rate or length, or after another conversion: found by comparing what was measured, and made sure of by laying the waveforms over each other.
    </p>
    <div class="line">
      <el-button size="small" :loading="isComparing" @click="compare">
        Find near-duplicates
      </el-button>
      <template v-if="found && found.others + found.strokes > 0">
        <span>{{ counted(found.others, 'recording') }} in several forms</span>
        <el-checkbox v-if="found.strokes > 0" v-model="withStrokes">
          and {{ counted(found.strokes, 'group') }} of strokes of one family
        </el-checkbox>
      </template>
      <span v-else-if="found" class="quiet">No recording exists in several forms.</span>
    </div>
    <article v-for="group in groups" :key="group.id" class="group" :aria-label="`${group.sounds[0]?.name}, in ${group.total} forms`">
      <header>
        <strong>{{ counted(group.total, 'sound') }}</strong> <span class="figure quiet">{{ fit(group) }}</span>
        <el-button size="small" text @click="show(group)">
          Show in the list
        </el-button>
      </header>
      <button v-for="row in group.sounds" :key="row.id" type="button" class="sound" :class="{ 'at-hand': player.atHand?.row?.id === row.id }" :aria-label="`Play ${row.name}, ${row.folder}, ${figuresOf(row)}`" @click="player.playRow(row)">
        <WaveThumb class="wave" :picture="pictureOf(row)" :label="`Waveform of ${row.name}`" />
        <span class="cut name">{{ row.name }}</span>
        <span class="cut quiet">{{ row.folder }}</span>
        <span class="figure quiet">{{ figuresOf(row) }}</span>
      </button>
      <p v-if="group.total > group.sounds.length" class="quiet">
        and {{ whole(group.total - group.sounds.length) }} more, in the list
      </p>
    </article>
    <el-button v-if="groups.length < total" size="small" @click="saying(() => load(groups))">
      Show {{ Math.min(PAGE, total - groups.length) }} more
    </el-button>
  </section>
</template>

<style scoped>
h2 { margin: 12px 0 4px; }
.line, header { display: flex; align-items: center; gap: 10px; }
.group { content-visibility: auto; contain-intrinsic-height: auto 120px; margin: 8px 0 0; padding: 0 0 6px; border-bottom: 1px solid var(--rule); }
header .el-button { margin-left: auto; }
.group p { margin: 2px 8px; }
.sound { display: grid; grid-template-columns: 90px minmax(0, 1fr) minmax(0, 1fr) 300px; align-items: center; gap: 10px; width: 100%; padding: 2px 8px; border: 0; background: none; color: var(--ink); font: inherit; text-align: left; cursor: pointer; }
.sound:hover { background: var(--sheet); }
.sound.at-hand { background: var(--at-hand); }
.sound .figure { text-align: right; }
</style>
