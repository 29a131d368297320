<script setup lang="ts">
import { addressOf } from '~~/contract/endpoint'
import { bounceRoutes, type Bounced, type BounceSpec, type Heard } from '~~/contract/bounce'
import { lengthSeconds } from '~~/core/groove/document'
import { midiFromPattern, type MidiNotes } from '~~/core/groove/midi/fromPattern'
import { portableName } from '~~/core/formats/package/names'
import { NAME_PARTS, planStems, stemFileName, type NamePart } from '~~/core/render/stems'
import { listed } from '~~/core/wording'
import { api } from '../parts/useApi'
import { offerFile } from '../sound'
import { downloadBytes, downloadUrl } from '../parts/useDownload'
import { beatsAMinute, counted, seconds, whole } from '../parts/useFormat'
import { say, saying } from '../parts/useSay'
import { useCompany } from './company'
import { useGrooves } from './grooves'
import { useJobs } from '../parts/jobs'
import { useSettings, type BounceChoice } from '../parts/settings'
import { useTargets } from '../fit'

/** Takes the pattern out: as a loop, as stems, or as a MIDI file. */
const open = defineModel<boolean>({ required: true })

const grooves = useGrooves()
const company = useCompany()
const jobs = useJobs()
const targets = useTargets()
const settings = useSettings()
const tab = ref<'audio' | 'midi'>('audio')
const toFolder = ref(false)
const folder = ref(settings.bounce.folder)
const job = ref<string>()
const result = shallowRef<Bounced>()
const heard = ref<Heard>('as heard')
const midiNotes = ref<MidiNotes['by']>('kit')
const midiFormat = ref<0 | 1>(1)
const midiWarnings = ref<readonly string[]>([])

const bars = computed(() => grooves.bars)
const length = computed(() => lengthSeconds({ ...grooves.pattern, bars: bars.value.to - bars.value.from }) * settings.bounce.passes)
const kitNames = computed(() => company.kits.map(kit => kit.name))
const plan = computed(() => settings.bounce.what === 'mix' ? undefined : planStems(grooves.joined, grooves.played, settings.bounce.what, kitNames.value))
const about = (index: number) => ({ index, count: (plan.value?.stems.length ?? 0) + (settings.bounce.withMix || !plan.value ? 1 : 0), pattern: grooves.pattern.name, bpm: grooves.pattern.tempoBpm })
const names = computed(() => {
  const stems = [...plan.value?.stems ?? [], ...(!plan.value || settings.bounce.withMix ? [{ name: 'Mix', kind: '', pad: '', note: '', kit: listed(kitNames.value) }] : [])]
  return stems.map((stem, index) => `${portableName(stemFileName(settings.bounce.name, stem, about(index)), `stem ${index + 1}`)}.wav`)
})
const silent = computed(() => result.value?.files.filter(file => file.silent).map(file => file.name) ?? [])
const peak = computed(() => result.value?.files.reduce<number | null>((highest, { peakDb }) => peakDb === null ? highest : Math.max(highest ?? peakDb, peakDb), null) ?? null)
const running = computed(() => job.value === undefined ? undefined : jobs.byId.get(job.value))
const progress = computed(() => running.value?.progress)

function set(change: Partial<BounceChoice>): void {
  settings.bounce = { ...settings.bounce, ...change }
}

function togglePart(part: NamePart): void {
  const { name } = settings.bounce
  set({ name: name.includes(part) ? name.filter(other => other !== part) : [...name, part] })
}

const fileUrl = (name: string) => addressOf(bounceRoutes.file, { params: { id: result.value?.download ?? '' }, query: { file: name } })

async function bounce(): Promise<void> {
  const { what, depth, sampleRate, tail, passes, withMix, name } = settings.bounce
  const { way, byHand } = { way: settings.groove.assigning, byHand: grooves.byHand }
  const spec: BounceSpec = { kits: [...company.kits], heard: heard.value, pattern: grooves.pattern, way, byHand, fromBar: bars.value.from, toBar: bars.value.to, passes, tail, depth, sampleRate, what, withMix, name: [...name] }
  result.value = undefined
  await saying(async () => {
    if (toFolder.value) set({ folder: folder.value })
    const begun = await api(bounceRoutes.begin, { body: { spec, folder: toFolder.value ? folder.value : null } })
    job.value = begun.id
    const made = await jobs.finished(begun)
    result.value = made
    if (made.download) downloadUrl(addressOf(bounceRoutes.file, { params: { id: made.download } }))
    say(`${counted(made.files.length, 'file')} written.`)
  })
  job.value = undefined
}

function writeMidi(): void {
  const notes = notesChosen()
  const { bytes, left } = midiFromPattern(grooves.pattern, { format: midiFormat.value, notes })
  midiWarnings.value = left
  downloadBytes(bytes, `${portableName(grooves.pattern.name, 'pattern')}.mid`, 'audio/midi')
}

function notesChosen(): MidiNotes {
  const { joined: kit, assignment } = grooves
  const target = targets.limitsOf(kit.target)
  if (midiNotes.value === 'kit') return { by: 'kit', kit, assignment }
  if (midiNotes.value === 'target' && target) return { by: 'target', target, assignment }
  return { by: midiNotes.value === 'percussion' ? 'percussion' : 'parts' }
}
const target = computed(() => targets.limitsOf(grooves.joined.target))
</script>

<template>
  <el-dialog v-model="open" title="Export" width="720" append-to-body>
    <el-radio-group v-model="tab" class="what" aria-label="Format">
      <el-radio-button value="audio">
        Audio: loop or stems
      </el-radio-button>
      <el-radio-button value="midi">
        MIDI file
      </el-radio-button>
    </el-radio-group>
    <div v-if="tab === 'audio'" class="form">
      <span>What</span>
      <el-select :model-value="settings.bounce.what" size="small" aria-label="Files to bounce" @update:model-value="set({ what: $event })">
        <el-option value="mix" label="one file, all together" /><el-option value="pad" label="stems, one for each pad" /><el-option value="kind" label="stems, one for each kind" /><el-option value="output" label="stems, one for each output" />
      </el-select>
      <el-checkbox v-if="plan" :model-value="settings.bounce.withMix" size="small" class="wide" @update:model-value="set({ withMix: Boolean($event) })">
        the mix beside them
      </el-checkbox>
      <span>Bars</span>
      <span class="figure">{{ bars.from + 1 }} to {{ bars.to }}, {{ seconds(length) }}<span v-if="!grooves.region" class="quiet"> · loop some bars to export only those</span></span>
      <span>Repeats</span>
      <el-input-number :model-value="settings.bounce.passes" size="small" :min="1" :max="64" aria-label="Repeats" @update:model-value="$event && set({ passes: $event })" />
      <span>Tail</span>
      <el-select :model-value="settings.bounce.tail" size="small" aria-label="Tail" @update:model-value="set({ tail: $event })">
        <el-option value="folded" label="wrapped to the start: a seamless loop" /><el-option value="with" label="rings out" /><el-option value="without" label="cut at the end of the bars" />
      </el-select>
      <span>Depth and rate</span>
      <span class="pair">
        <el-select :model-value="settings.bounce.depth" size="small" aria-label="Depth" @update:model-value="set({ depth: $event })"><el-option :value="16" label="16 bit, dithered" /><el-option :value="24" label="24 bit, dithered" /><el-option value="float" label="32 bit float" /></el-select>
        <el-select :model-value="settings.bounce.sampleRate" size="small" aria-label="Sample rate" @update:model-value="set({ sampleRate: $event })"><el-option v-for="rate in [44100, 48000, 96000]" :key="rate" :value="rate" :label="`${rate / 1000} kHz`" /></el-select>
      </span>
      <span>Names of</span>
      <span class="parts" role="group" aria-label="Parts of the names, in the order in which they are chosen">
        <button v-for="part in NAME_PARTS" :key="part" type="button" class="chip" :class="{ on: settings.bounce.name.includes(part) }" :aria-pressed="settings.bounce.name.includes(part)" @click="togglePart(part)">{{ settings.bounce.name.includes(part) ? `${settings.bounce.name.indexOf(part) + 1} ` : '' }}{{ part }}</button>
      </span>
      <span>Where to</span>
      <el-radio-group v-model="toFolder" size="small" aria-label="Destination">
        <el-radio :value="false">download{{ names.length > 1 ? ', as one .zip' : '' }}</el-radio>
        <el-radio :value="true">a folder on this machine</el-radio>
      </el-radio-group>
      <div v-if="toFolder" class="wide">
        <FolderBrowser v-model="folder" is-to-write />
      </div>
      <ul class="wide names figure">
        <li v-for="name in names" :key="name" class="cut">
          {{ name }}
        </li>
      </ul>
      <p v-if="grooves.unheard.hits > 0" class="wide look">
        Not heard, having no pad: {{ counted(grooves.unheard.hits, 'hit') }}.
      </p>
      <SilencingChoice v-model="heard" :kits="company.kits" what="the bounce" class="wide" />
      <p v-if="running" class="wide" role="status">
        {{ running.state === 'waiting' ? 'Waits' : progress?.at ?? 'Begins' }}<template v-if="progress">
          · <span class="figure">{{ progress.total === null ? whole(progress.done) : `${whole(progress.done)} of ${whole(progress.total)}` }} {{ progress.unit }}</span>
        </template>
        <el-button size="small" @click="jobs.cancel(running.id)">
          Cancel
        </el-button>
      </p>
      <div v-if="result" class="wide" role="status">
        <p>
          {{ counted(result.files.length, 'file') }}{{ result.download ? ' downloaded' : ` in ${result.folder}` }}, {{ peak === null ? 'all digital silence.' : `peaks at ${peak.toFixed(1)} dBFS.` }}
        </p>
        <ul v-if="result.download" class="files" aria-label="Files to drag out or save again">
          <li v-for="file in result.files" :key="file.name">
            <a :href="fileUrl(file.name)" :download="file.name" draggable="true" :title="`Drag to the desktop or another program, or click to save ${file.name} again`" @dragstart="offerFile($event, fileUrl(file.name), file.name, 'audio/wav')">{{ file.name }}</a>
          </li>
        </ul>
        <p v-if="result.loweredDb < 0" class="look">
          All were lowered by {{ (-result.loweredDb).toFixed(2) }} dB, to -1 dBTP at most. 32 bit float keeps the level.
        </p>
        <p v-if="silent.length > 0" class="look">
          Digital silence: {{ listed(silent, 8) }}.
        </p>
        <p v-if="result.missing.length > 0" class="lost">
          Missing, and silent: {{ result.missing.join(', ') }}
        </p>
      </div>
    </div>
    <div v-else class="form">
      <span>Notes</span>
      <el-select v-model="midiNotes" size="small" aria-label="Notes of the MIDI file">
        <el-option value="kit" label="of the kit's pads" /><el-option value="percussion" label="General MIDI percussion keys" /><el-option value="parts" label="of the pattern's own parts" /><el-option value="target" :disabled="!target" :label="target ? `of the target: ${target.name}` : 'of the target: the kit has none'" />
      </el-select>
      <span>Tracks</span>
      <el-select v-model="midiFormat" size="small" aria-label="Tracks of the MIDI file">
        <el-option :value="1" label="one for each part (format 1)" /><el-option :value="0" label="all in one (format 0)" />
      </el-select>
      <p class="wide quiet">
        {{ grooves.pattern.name }}: {{ beatsAMinute(grooves.pattern.tempoBpm) }}, {{ grooves.pattern.metre.beats }}/{{ grooves.pattern.metre.unit }}, {{ counted(grooves.pattern.bars, 'bar') }}, on channel 10, 960 ticks a quarter. Hits are written where the swing puts them.
      </p>
      <p v-for="line in midiWarnings" :key="line" class="wide look" role="status">
        {{ line }}
      </p>
    </div>
    <template #footer>
      <el-button @click="open = false">
        {{ result ? 'Done' : 'Cancel' }}
      </el-button>
      <el-button v-if="tab === 'audio'" type="primary" :disabled="job !== undefined || grooves.played.ticks.length === 0 || (toFolder && folder === '')" @click="bounce">
        Bounce {{ counted(names.length, 'file') }}
      </el-button>
      <el-button v-else type="primary" @click="writeMidi">
        Export MIDI file
      </el-button>
    </template>
  </el-dialog>
</template>

<style scoped>
.what { margin-bottom: 10px; }
.form { display: grid; grid-template-columns: 110px minmax(0, 1fr); gap: 6px 10px; align-items: center; }
.wide { grid-column: 1 / -1; margin: 0; }
.wide p { margin: 2px 0; }
.pair { display: flex; gap: 6px; }
.pair > * { max-width: 150px; }
.parts { display: flex; flex-wrap: wrap; gap: 4px; }
.chip { height: 24px; padding: 0 7px; border: 1px solid var(--rule); border-radius: 2px; background: none; color: var(--ink); font-size: 12px; cursor: pointer; }
.chip.on { border-color: var(--accent); background: var(--accent); color: var(--on-accent); }
.files { display: flex; flex-wrap: wrap; gap: 0 12px; max-height: 96px; margin: 0; padding: 0; overflow-y: auto; list-style: none; }
.files a { display: inline-block; min-height: 24px; line-height: 24px; }
.names { max-height: 92px; overflow-y: auto; margin: 0; padding: 4px 8px; border: 1px solid var(--rule); list-style: none; }
</style>
