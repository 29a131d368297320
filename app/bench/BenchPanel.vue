<script setup lang="ts">
import { until } from '@vueuse/core'
import { backToView } from '../parts/useFirstFocus'
import { useFindings } from './useFindings'
import { useKit } from './kit'
import { BENCH_PANELS, useSettings, type BenchPanel } from '../parts/settings'

/** What is open below the kit sheet, or nothing. */
const settings = useSettings()
const kit = useKit()
const findings = useFindings()
const panel = useTemplateRef<HTMLElement>('panel')

const TITLES: Readonly<Record<BenchPanel, string>> = {
  'layers': 'Layers', 'trim': 'Trim and slice', 'levels': 'Levels', 'groups': 'Groups', 'outputs': 'Outputs', 'side kit': 'Side kit', 'findings': 'Findings', 'history': 'History', 'playing': 'Playing',
}

function toggle(name: BenchPanel): void {
  settings.benchPanel = settings.benchPanel === name ? '' : name
}

/** Opens the next one, and puts the focus into it. */
async function next(): Promise<void> {
  const at = BENCH_PANELS.indexOf(settings.benchPanel as BenchPanel)
  const wanted = settings.benchPanel = BENCH_PANELS[at + 1] ?? ''
  if (wanted === '') return backToView()
  await nextTick()
  // The first one comes a moment after the sheet.
  await until(panel).toBeTruthy()
  await nextTick()
  if (settings.benchPanel === wanted) panel.value?.querySelector<HTMLElement>('button:not([disabled]), [tabindex="0"]:not(input), input[type="checkbox"]')?.focus()
}
defineExpose({ next, close: () => settings.benchPanel = '' })
</script>

<template>
  <div class="tabs" role="group" aria-label="Below the kit sheet">
    <button v-for="name in BENCH_PANELS" :key="name" type="button" class="tab" :class="{ here: settings.benchPanel === name }" :aria-expanded="settings.benchPanel === name" @click="toggle(name)">
      {{ TITLES[name] }}<span v-if="name === 'findings' && findings.length > 0" class="figure look count">{{ findings.length }}</span>
    </button>
    <PanelGrip v-if="settings.benchPanel" v-model="settings.benchPanelHeight" class="grip" :of="panel" :label="`Height of ${TITLES[settings.benchPanel]}`" />
  </div>
  <Deferred>
    <section v-if="settings.benchPanel" ref="panel" class="panel" :aria-label="TITLES[settings.benchPanel]" :style="{ flexBasis: `${settings.benchPanelHeight}px` }">
      <LayersEditor v-if="settings.benchPanel === 'layers'" v-model:layer="kit.layerIndex" />
      <TrimEditor v-else-if="settings.benchPanel === 'trim'" :layer-index="kit.layerIndex" />
      <LevelsPanel v-else-if="settings.benchPanel === 'levels'" />
      <GroupsPanel v-else-if="settings.benchPanel === 'groups'" />
      <OutputsPanel v-else-if="settings.benchPanel === 'outputs'" />
      <SideKit v-else-if="settings.benchPanel === 'side kit'" />
      <FindingsPanel v-else-if="settings.benchPanel === 'findings'" />
      <StepList v-else-if="settings.benchPanel === 'history'" :steps="kit.steps" label="Steps of this kit, the latest first" @step="kit.stepTo" />
      <PlayingPanel v-else />
    </section>
  </Deferred>
</template>

<style scoped>
.count { margin-left: 5px; }
.grip { position: sticky; right: 0; margin-left: auto; }
.tabs { display: flex; gap: 2px; min-width: 0; padding: 2px 10px; border-top: 1px solid var(--rule); overflow-x: auto; scrollbar-width: thin; }
.tab { flex: none; min-height: 24px; padding: 2px 8px; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--quiet); font: inherit; font-size: 12px; cursor: pointer; }
.tab:hover { color: var(--ink); }
.tab.here { border-bottom-color: var(--accent); color: var(--ink); font-weight: 600; }
/* The sheet above it keeps four rows, whatever height was wanted. */
.panel { display: flex; flex-direction: column; flex: 0 1 auto; min-height: 90px; overflow: hidden; border-top: 1px solid var(--rule); }
</style>
