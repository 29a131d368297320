<script setup lang="ts">
import { soundRoutes, type SoundDetail, type SoundRow } from '~~/contract/library'
import { matchingGainDb } from '~~/core/audio/analysis/loudness'
import type { Colour } from '~~/core/audio/analysis/colour'
import type { Flag } from '~~/core/audio/analysis/figures'
import { isSurePitch } from '~~/core/audio/analysis/surePitch'
import { detailLines } from '~~/core/figures/register'
import { noteLabel } from '~~/core/audio/notes'
import { kindLabel } from '~~/core/search/kinds'
import { api } from '../parts/useApi'
import { FLAG_WORDS } from '../parts/useFlagWords'
import { beatsAMinute, counted, decibels, familyLabel, kilohertz, megabytes, seconds, signedDb, whole } from '../parts/useFormat'
import { pictureOf } from '../parts/useWaveformPainter'
import { useLibrary } from './library'
import { useSettings } from '../parts/settings'

/** Everything that is known of the current sound, and on what it rests. */
const props = defineProps<{ row: SoundRow }>()

const library = useLibrary()
const settings = useSettings()
const detail = shallowRef<SoundDetail>()
const problem = ref(false)

// While the cursor runs, only where it stops is asked for; a row that has come anew may say something else.
watch(() => props.row, ({ hash }, _before, onCleanup) => {
  const wait = setTimeout(async () => {
    const found = await api(soundRoutes.read, { params: { hash } }).catch(() => undefined)
    if (hash !== props.row.hash) return
    detail.value = found
    problem.value = found === undefined
  }, 80)
  onCleanup(() => clearTimeout(wait))
}, { immediate: true })

const shown = computed(() => detail.value?.hash === props.row.hash ? detail.value : undefined)
const figures = computed(() => shown.value?.figures ?? undefined)

type Line = readonly [label: string, value: string, explained?: string | undefined]

function colourLines(title: string, colour: Colour | null): Line[] {
  if (!colour) return []
  const percent = (part: number) => `${Math.round(part * 100)} %`
  return [
    [`${title}, centre`, `${whole(Math.round(colour.centroidHz))} Hz`, `85 % of its power lies below ${whole(Math.round(colour.rolloffHz))} Hz; flatness ${colour.flatness.toFixed(3)}`],
    ['low, mid, high', [colour.low, colour.mid, colour.high].map(percent).join(' '), 'Parts of the power below 250 Hz, up to 4 kHz, and above'],
    ['noise', percent(colour.noisiness), '0 % is nothing but tones'],
  ]
}

const groups = computed<{ title: string, lines: Line[] }[]>(() => {
  const sound = shown.value
  const found = figures.value
  if (!sound || !found) return []
  const { level, timing, pitch } = found
  return [
    { title: 'Level', lines: level ? [
      ...detailLines('Level', found, settings.middleC),
      ['Matching gain', signedDb(matchingGainDb(level.hitLufs, level.truePeakDb, settings.referenceLufs)), `Brings the hit to ${settings.referenceLufs} LUFS, as far as its peak stays below -1 dBTP`],
    ] : [] },
    { title: 'Time', lines: timing ? [
      ...detailLines('Time', found, settings.middleC),
      ['Hits', found.hits.length > 1 ? `${found.hits.length} at ${found.hits.slice(0, 4).map(hit => hit.startSeconds.toFixed(2)).join(' ')}${found.hits.length > 4 ? ' …' : ''} s` : '1'],
    ] : [] },
    { title: 'Colour', lines: [
      ...detailLines('Colour', found, settings.middleC),
      ...colourLines('First 60 ms', found.attack),
      ...colourLines('After that', found.body),
    ] },
    { title: 'Pitch', lines: pitch ? [
      ['Note', `${noteLabel(pitch.note, settings.middleC)} ${pitch.cents >= 0 ? '+' : ''}${Math.round(pitch.cents)} ct`],
      ['Frequency', `${pitch.hz.toFixed(1)} Hz`],
      ['Sureness', `${Math.round(pitch.confidence * 100)} %${isSurePitch(pitch) ? '' : ', too little to be listed'}`, 'How much of its power up to 4 kHz belongs to that tone and its multiples; less where most of it lies higher'],
    ] : [['Note', 'none stands out']] },
    { title: 'File', lines: [
      ['Container', `${sound.container}, ${sound.codec}`],
      ['Format', `${sound.bitDepth > 0 ? `${sound.bitDepth} bit, ` : ''}${kilohertz(sound.sampleRate)}, ${counted(sound.channels, 'channel')}`],
      ['Length', `${seconds(sound.lengthSeconds)}, ${whole(sound.frames)} frames`],
      ...(sound.embedded.rootNote === undefined ? [] : [['Root note stated', noteLabel(sound.embedded.rootNote, settings.middleC)] as Line]),
      ...(sound.embedded.tags?.bpm === undefined ? [] : [['Tempo in its tags', beatsAMinute(sound.embedded.tags.bpm)] as Line]),
      ...(sound.embedded.tags?.key === undefined ? [] : [['Key stated', sound.embedded.tags.key] as Line]),
      ...(sound.embedded.loops?.length ? [['Loops stated', String(sound.embedded.loops.length)] as Line] : []),
      ...(sound.embedded.cues?.length ? [['Cue points', String(sound.embedded.cues.length)] as Line] : []),
      ...Object.entries({ ...sound.embedded.info, ...sound.embedded.tags?.texts }).map(([id, text]): Line => [id, text]),
    ] },
  ]
})

const percent = (part: number) => `${Math.round(part * 100)} %`

const witnesses = computed(() => shown.value ? [
  { called: 'Its name', says: shown.value.kindBy.name },
  { called: 'Its tags', says: shown.value.kindBy.file },
  { called: 'Its sound', says: shown.value.kindBy.audio },
] : [])

function sentence(flag: Flag): string {
  const extra = flag === 'dc-offset' && figures.value ? ` ${decibels(20 * Math.log10(Math.abs(figures.value.dcOffset)))} off.` : ''
  return FLAG_WORDS[flag].sentence + extra
}
</script>

<template>
  <section class="figures" tabindex="0" aria-label="Figures of the current sound">
    <h2 class="cut" :title="row.name">
      {{ row.name }}
    </h2>
    <div class="wave">
      <WaveForm :picture="pictureOf(row)" :label="`Waveform of ${row.name}`" />
      <span v-for="hit in figures?.hits ?? []" :key="hit.startSeconds" class="hit" :style="{ left: `${hit.startSeconds / row.lengthSeconds * 100}%` }" />
    </div>
    <p v-if="problem" class="lost">
      The figures could not be fetched.
    </p>
    <template v-if="shown">
      <p v-for="flag in figures?.flags ?? []" :key="flag" class="look note">
        <strong>{{ FLAG_WORDS[flag].word }}.</strong> {{ sentence(flag) }}
      </p>
      <p v-for="warning in shown.warnings" :key="warning" class="look note">
        {{ warning }}
      </p>
      <h3>Kind</h3>
      <p class="note">
        <template v-if="shown.kind">
          {{ kindLabel(shown.kind) }}, {{ percent(shown.kindConfidence ?? 0) }} sure <span class="quiet">by {{ shown.kindEvidence }}</span>
        </template>
        <span v-else class="quiet">Not known: no witness is sure enough.</span>
      </p>
      <dl class="witnesses">
        <template v-for="witness in witnesses" :key="witness.called">
          <dt>{{ witness.called }}</dt>
          <dd :title="witness.says?.evidence">
            {{ witness.says ? `${kindLabel(witness.says.path)}, ${percent(witness.says.confidence)}` : 'says nothing' }}<span v-if="witness.says" class="quiet evidence">{{ witness.says.evidence }}</span>
          </dd>
        </template>
      </dl>
      <template v-if="shown.tempo">
        <h3>Tempo</h3>
        <p class="note">
          {{ beatsAMinute(shown.tempo.bpm) }} <span class="quiet">by {{ shown.tempo.evidence }}</span>
        </p>
      </template>
      <template v-if="shown.tags.length > 0 || shown.hand.note">
        <h3>Set by hand</h3>
        <p v-if="shown.tags.length > 0" class="note">
          {{ shown.tags.join(', ') }}
        </p>
        <p v-if="shown.hand.note" class="note">
          {{ shown.hand.note }}
        </p>
      </template>
      <template v-if="shown.named && shown.named.parts.length > 0">
        <h3>Read from the name</h3>
        <p class="note">
          <span v-for="(part, i) in shown.named.parts" :key="i">{{ i > 0 ? ', ' : '' }}<strong>{{ part.text }}</strong> <span class="quiet">{{ part.means }}</span></span>
        </p>
        <p v-if="shown.strokes > 1" class="note">
          One of {{ whole(shown.strokes) }} strokes <span class="quiet">of {{ familyLabel(shown.named.family ?? '') }}</span>
          <el-button size="small" text @click="library.setCondition('family', `family=${row.id}`)">
            Show them in the list
          </el-button>
        </p>
      </template>
      <template v-if="shown.near.total > 0">
        <h3>The same recording</h3>
        <p v-for="(other, i) in shown.near.shown" :key="i" class="note">
          {{ other.name }} <span class="quiet">{{ other.folder }}, {{ percent(Math.abs(other.correlation)) }} alike, {{ signedDb(other.levelDb) }}</span>
        </p>
        <p class="note">
          <span v-if="shown.near.total > shown.near.shown.length" class="quiet">and {{ whole(shown.near.total - shown.near.shown.length) }} more</span>
          <el-button size="small" text @click="library.setCondition('same', `same=${row.id}`)">
            Show them in the list
          </el-button>
        </p>
      </template>
      <p v-if="!figures" class="quiet">
        Not measured yet: scan its source again.
      </p>
      <template v-for="group in groups" :key="group.title">
        <template v-if="group.lines.length > 0">
          <h3>{{ group.title }}</h3>
          <dl>
            <template v-for="([label, value, explained], i) in group.lines" :key="i">
              <dt class="cut" :title="explained">
                {{ label }}
              </dt><dd class="figure" :title="explained ?? value">
                {{ value }}
              </dd>
            </template>
          </dl>
        </template>
      </template>
      <h3>{{ counted(shown.places.total, 'file') }}</h3>
      <p v-for="place in shown.places.shown" :key="`${place.root}/${place.path}`" class="place" :class="{ lost: place.missing }">
        {{ place.root }}/{{ place.path }} <span class="quiet figure">{{ megabytes(place.size) }}{{ place.missing ? ', missing' : '' }}</span>
      </p>
      <p v-if="shown.places.total > shown.places.shown.length" class="note quiet">
        and {{ whole(shown.places.total - shown.places.shown.length) }} more
      </p>
    </template>
  </section>
</template>

<style scoped>
.figures { width: 276px; flex: none; padding: 8px 12px; border-left: 1px solid var(--rule); overflow-y: auto; }
.wave { position: relative; height: 56px; margin: 6px 0; background: var(--sheet); }
.hit { position: absolute; top: 0; bottom: 0; width: 1px; background: var(--look); }
.note { margin: 4px 0; font-size: 12px; }
h3 { margin: 10px 0 2px; font-size: 12px; color: var(--quiet); font-weight: 600; border-bottom: 1px solid var(--rule); }
dl { display: grid; grid-template-columns: 108px 1fr; margin: 0; font-size: 12px; line-height: 20px; }
dd { margin: 0; text-align: right; }
dd.figure { white-space: normal; }
.witnesses { margin-bottom: 4px; }
.witnesses dd { text-align: left; }
.witnesses { grid-template-columns: 62px 1fr; line-height: 17px; }
.evidence { display: block; font-size: 11px; }
.place { margin: 3px 0; font-size: 12px; overflow-wrap: anywhere; }
</style>
