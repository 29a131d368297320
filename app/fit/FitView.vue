<script setup lang="ts">
import { METER_NAMES, meterWords, outcomeWords } from '~~/core/fit/words'
import { capitalised, listed } from '~~/core/wording'
import { useCommands } from '../parts/useCommands'
import { useFirstFocus } from '../parts/useFirstFocus'
import { saying } from '../parts/useSay'
import { useDoors } from '../parts/doors'
import { useFit, ON_BENCH } from './fit'
import { useFitHearing } from './fitHearing'
import { useKeyChoices } from '../parts/keys/keys'
import { useKit } from '../bench'
import { FIT_PANELS, useSettings, type FitPanel } from '../parts/settings'
import { useTargets } from './targets'
import { useVault } from '../vault'

const fit = useFit()
const hearing = useFitHearing()
const bench = useKit()
const settings = useSettings()
const targets = useTargets()
const vault = useVault()
const table = useTemplateRef<{ focus: () => void }>('table')
const targetsOpen = ref(false)
const writeOpen = ref(false)
const readOpen = ref(false)
useFirstFocus(table)
const doors = useDoors()
watch(() => doors.kit, file => file && (readOpen.value = true), { immediate: true })

const TITLES: Readonly<Record<FitPanel, string>> = { hear: 'Before and after', sizes: 'Largest pads', notes: 'Notes', report: 'Report' }
const keys = useKeyChoices()
const hints = computed(() => keys.hints(['fitPlay', 'fitSwitch', 'holdLength', 'fitPanel', 'fitWrite', 'keys']))

const kits = computed(() => [
  { id: ON_BENCH, name: `On the bench: ${bench.kit.name}` },
  ...(vault.vault?.presets ?? []).filter(preset => preset.type === 'kit').map(({ id, name }) => ({ id, name })),
])
const nameOfKit = (id: string) => kits.value.find(kit => kit.id === id)?.name ?? 'gone'

onMounted(() => {
  void saying(async () => {
    await Promise.all([targets.load(), vault.vault ? undefined : vault.load()])
    // Presets and targets that are gone are let go of.
    const there = settings.fit.kits.filter(id => kits.value.some(kit => kit.id === id))
    const known = settings.fit.targets.filter(id => targets.byId(id) !== undefined)
    if (there.length < settings.fit.kits.length) fit.choose({ kits: there.length > 0 ? there : [ON_BENCH] })
    if (known.length < settings.fit.targets.length) fit.choose({ targets: known.length > 0 ? known : ['lembos'] })
    await fit.refresh()
  })
})
onBeforeUnmount(() => hearing.stop())

// The kit on the bench may have been edited since it was measured.
watch(() => bench.kit, () => {
  if (fit.kitId === ON_BENCH) void fit.refresh()
})

function chooseKits(ids: string[]): void {
  if (ids.length > 0) fit.choose({ kits: ids })
}

function chooseTargets(ids: string[]): void {
  if (ids.length > 0) fit.choose({ targets: ids })
}

function hold(what: Parameters<typeof fit.toggleHold>[1]): void {
  if (fit.row) fit.toggleHold(fit.row.padIndex, what)
}

function nextPanel(): void {
  settings.fit = { ...settings.fit, panel: FIT_PANELS[(FIT_PANELS.indexOf(settings.fit.panel) + 1) % FIT_PANELS.length]! }
}

useCommands('fit', {
  fitNext: () => fit.moveCursor(1),
  fitPrevious: () => fit.moveCursor(-1),
  fitFirst: () => fit.moveCursor(-Infinity),
  fitLast: () => fit.moveCursor(Infinity),
  fitPageNext: () => fit.moveCursor(16),
  fitPagePrevious: () => fit.moveCursor(-16),
  fitPlay: () => void saying(() => hearing.toggle(hearing.isPlaying ? hearing.what : 'sound')),
  fitSwitch: () => void saying(() => hearing.hear(hearing.side === 'after' ? 'before' : 'after')),
  fitDifference: () => void saying(() => hearing.hear('difference')),
  fitWhole: () => void saying(() => hearing.toggle('kit')),
  fitLoop: () => void (hearing.isLooped = !hearing.isLooped),
  holdStereo: () => hold('stereo'),
  holdLength: () => hold('length'),
  holdBandwidth: () => hold('bandwidth'),
  holdLayers: () => hold('layers'),
  holdPad: () => hold('pad'),
  fitImportance: () => fit.row && fit.nextImportance(fit.row.padIndex),
  fitFree: () => fit.letGo(),
  fitPanel: nextPanel,
  fitTargets: () => targetsOpen.value = true,
  fitRead: () => readOpen.value = true,
  fitWrite: () => writeOpen.value = true,
  fitBack: () => hearing.stop(),
})

const stateWords = computed(() => {
  if (fit.state === 'measuring') return 'Measuring the cost of every change'
  if (fit.state === 'planning') return 'Planning'
  if (!fit.plan) return ''
  if (fit.plan.shortfalls.length > 0) return `Cannot fit: ${fit.plan.shortfalls.map(({ meter, needed, room }) => `${METER_NAMES[meter].toLowerCase()} ${meterWords(meter, needed, fit.target)} of ${meterWords(meter, room, fit.target)}`).join(', ')}`
  return fit.kit === undefined ? '' : capitalised(outcomeWords(fit.planned?.kit ?? fit.kit, fit.plan))
})
const isHeld = computed(() => Object.values(fit.wishes.holds).some(one => Object.values(one).some(Boolean)) || Object.values(fit.wishes.importance).some(value => value !== 'normal'))
</script>

<template>
  <div class="view">
    <header class="bar">
      <h1 class="visually-hidden">
        Fit
      </h1>
      <div class="choice">
        <Deferred>
          <el-select class="kits" :model-value="[...settings.fit.kits]" multiple collapse-tags collapse-tags-tooltip filterable aria-label="Kits to fit" @update:model-value="chooseKits">
            <el-option v-for="kit in kits" :key="kit.id" :value="kit.id" :label="kit.name" />
          </el-select>
          <span class="quiet">for</span>
          <el-select class="targets" :model-value="[...settings.fit.targets]" multiple collapse-tags collapse-tags-tooltip filterable aria-label="Targets" @update:model-value="chooseTargets">
            <el-option v-for="target in targets.all" :key="target.id" :value="target.id" :label="target.name" />
          </el-select>
        </Deferred>
      </div>
      <span :title="stateWords" class="quiet cut state" :class="{ lost: (fit.plan?.shortfalls.length ?? 0) > 0 }" role="status">{{ stateWords }}</span>
      <div class="spacer" />
      <el-button v-if="isHeld" aria-label="Release all holds" title="Release all holds" @click="fit.letGo()">
        Release holds
      </el-button>
      <el-button @click="targetsOpen = true">
        Targets…
      </el-button>
      <el-button @click="readOpen = true">
        Import a kit…
      </el-button>
      <el-button type="primary" @click="writeOpen = true">
        Export…
      </el-button>
    </header>
    <div v-if="!fit.followsBench" class="pair" role="status">
      <span class="quiet cut">{{ settings.fit.readBeside !== '' ? 'Read in here' : 'Chosen here' }}: {{ listed(settings.fit.kits.map(nameOfKit), 3) }}. The bench has "{{ bench.kit.name }}".</span>
      <el-button size="small" @click="fit.followBench()">
        Fit the kit on the bench
      </el-button>
    </div>
    <div v-if="settings.fit.kits.length * settings.fit.targets.length > 1" class="pair">
      <span class="quiet">Shown:</span>
      <el-select v-model="fit.kitId" size="small" class="targets" aria-label="Kit that is shown">
        <el-option v-for="id in settings.fit.kits" :key="id" :value="id" :label="nameOfKit(id)" />
      </el-select>
      <el-select v-model="fit.targetId" size="small" class="targets" aria-label="Target that is shown">
        <el-option v-for="id in settings.fit.targets" :key="id" :value="id" :label="targets.byId(id)?.name ?? id" />
      </el-select>
    </div>
    <FitMeters v-if="fit.plan && fit.planned" :target="fit.planned.target" :before="fit.plan.before" :after="fit.plan.after" />
    <div v-if="fit.error" class="empty">
      <h1>The kit could not be measured</h1>
      <p role="alert">
        {{ fit.error }}
      </p>
      <el-button type="primary" @click="fit.refresh()">
        Retry
      </el-button>
    </div>
    <div v-else-if="!fit.plan && fit.state === 'idle'" class="empty">
      <h1>No kit to fit yet</h1>
      <p>Put sounds on pads on the Bench, choose a preset above, or read a kit of another sampler. Then choose what it is to fit: what must give way, and what that costs, is shown here.</p>
      <el-button type="primary" @click="navigateTo('/bench')">
        Go to the Bench
      </el-button>
      <el-button @click="readOpen = true">
        Import a kit…
      </el-button>
    </div>
    <div v-else class="work">
      <FitPlanTable ref="table" />
      <aside class="side" aria-label="Beside the plan">
        <div class="tabs" role="group" aria-label="What is shown beside the plan">
          <button v-for="name in FIT_PANELS" :key="name" type="button" class="tab" :class="{ here: settings.fit.panel === name }" :aria-pressed="settings.fit.panel === name" @click="settings.fit = { ...settings.fit, panel: name }">
            {{ TITLES[name] }}<span v-if="name === 'report' && (fit.plan?.warnings.length ?? 0) > 0" class="figure look count">{{ fit.plan!.warnings.length }}</span>
          </button>
        </div>
        <FitHear v-if="settings.fit.panel === 'hear'" />
        <FitConsumers v-else-if="settings.fit.panel === 'sizes'" />
        <FitNotes v-else-if="settings.fit.panel === 'notes'" />
        <FitReport v-else />
      </aside>
    </div>
    <FootLine :hints="hints" />
    <TargetsDialog v-model="targetsOpen" />
    <WriteDialog v-model="writeOpen" />
    <ForeignDialog v-model="readOpen" v-model:file="doors.kit" @read="fit.fitRead" />
  </div>
</template>

<style scoped>
.choice { display: flex; align-items: center; gap: 8px; flex: none; min-width: 378px; }
.kits { flex: none; width: 196px; }
.targets { flex: none; width: 150px; }
.state { min-width: 0; font-size: 12px; }
.pair { display: flex; align-items: center; gap: 8px; padding: 3px 12px; border-bottom: 1px solid var(--rule); }
.work { display: flex; flex: 1; min-height: 0; }
.side { display: flex; flex-direction: column; flex: none; width: 286px; min-height: 0; border-left: 1px solid var(--rule); }
.tabs { display: flex; border-bottom: 1px solid var(--rule); }
.tab { min-height: 24px; padding: 3px 8px; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--quiet); font: inherit; font-size: 12px; cursor: pointer; }
.tab:hover { color: var(--ink); }
.tab.here { border-bottom-color: var(--accent); color: var(--ink); font-weight: 600; }
.count { margin-left: 5px; }
</style>
