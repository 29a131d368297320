<script setup lang="ts">
import { useGrooves } from './grooves'
import { GROOVE_PANELS, useSettings, type GroovePanel } from '../parts/settings'

/** What is open beside the pattern, or nothing. */
const grooves = useGrooves()
const settings = useSettings()
const panel = useTemplateRef<HTMLElement>('panel')
const TITLES: Readonly<Record<GroovePanel, string>> = { 'patterns': 'Patterns', 'kits': 'Kits', 'try-out': 'Try-out', 'edit': 'Edit', 'parts': 'Parts', 'history': 'History' }

async function focus(): Promise<void> {
  await nextTick()
  panel.value?.querySelector<HTMLElement>('[role="grid"], [role="listbox"], .first-focus, input, button:not([disabled])')?.focus()
}

function toggle(name: GroovePanel): void {
  settings.groovePanel = settings.groovePanel === name ? '' : name
}

function open(name: GroovePanel): void {
  settings.groovePanel = name
  void focus()
}

function next(): void {
  settings.groovePanel = GROOVE_PANELS[GROOVE_PANELS.indexOf(settings.groovePanel as GroovePanel) + 1] ?? ''
  void focus()
}
defineExpose({ next, open })
</script>

<template>
  <aside class="side" :class="{ open: settings.groovePanel }" aria-label="Beside the pattern">
    <div class="tabs" role="group" aria-label="What is shown beside the pattern">
      <button v-for="name in GROOVE_PANELS" :key="name" type="button" class="tab" :class="{ here: settings.groovePanel === name }" :aria-expanded="settings.groovePanel === name" @click="toggle(name)">
        {{ TITLES[name] }}<span v-if="name === 'parts' && grooves.unheard.hits > 0" class="figure look unheard">{{ grooves.unheard.hits }}</span>
      </button>
    </div>
    <Deferred>
      <section v-if="settings.groovePanel" ref="panel" class="panel" :aria-label="TITLES[settings.groovePanel]">
        <PatternList v-if="settings.groovePanel === 'patterns'" />
        <KitList v-else-if="settings.groovePanel === 'kits'" />
        <TryOutPanel v-else-if="settings.groovePanel === 'try-out'" />
        <EditPanel v-else-if="settings.groovePanel === 'edit'" />
        <PartsPanel v-else-if="settings.groovePanel === 'parts'" />
        <PatternHistory v-else />
      </section>
    </Deferred>
  </aside>
</template>

<style scoped>
.side { display: flex; flex-direction: column; min-height: 0; border-left: 1px solid var(--rule); }
.side.open { width: 318px; flex: none; }
.side:not(.open) .tabs { flex-direction: column; }
.tabs { display: flex; flex-wrap: wrap; border-bottom: 1px solid var(--rule); }
.tab { min-height: 24px; padding: 3px 7px; border: 0; border-bottom: 2px solid transparent; background: none; color: var(--quiet); font: inherit; font-size: 12px; cursor: pointer; text-align: left; }
.tab:hover { color: var(--ink); }
.tab.here { border-bottom-color: var(--accent); color: var(--ink); font-weight: 600; }
.unheard { margin-left: 5px; }
.panel { display: flex; flex-direction: column; flex: 1; min-height: 0; }
</style>
