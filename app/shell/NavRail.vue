<script setup lang="ts">
import { addressOf } from '~~/contract/endpoint'
import { studioRoutes } from '~~/contract/studio'
import { useKit } from '../bench'
import { useLibrary } from '../library'
import { usePatterns } from '../grooves'
import { useSettings } from '../parts/settings'
import { useVault } from '../vault'
import { useKeys } from '../parts/useKeys'
import { VIEWS, type ViewId } from '../views'
import { whole } from '../parts/useFormat'

const settings = useSettings()
const library = useLibrary()
const kit = useKit()
const vault = useVault()
const patterns = usePatterns()

/** What is counted of a view beside its name, where something is. */
const COUNTS: Partial<Record<ViewId, () => string>> = {
  library: () => library.loaded ? whole(library.total) : '',
  bench: () => kit.filledPads > 0 ? whole(kit.filledPads) : '',
  grooves: () => patterns.isLoaded ? whole(patterns.rows.length) : '',
  vault: () => vault.vault ? whole(vault.vault.presets.length) : '',
}

const views = computed(() => VIEWS.map(({ id, name }, i) => ({ key: String(i + 1), to: `/${id}`, name, count: COUNTS[id]?.() ?? '' })))

const settingsOpen = ref(false)

useKeys((event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return false
  const view = views.value.find(candidate => candidate.key === event.key)
  if (view) void navigateTo(view.to)
  return view !== undefined
})
</script>

<template>
  <nav class="rail" aria-label="Views">
    <div class="name">Emporion</div>
    <NuxtLink v-for="view in views" :key="view.to" :to="view.to" class="view-link" active-class="here">
      <kbd>{{ view.key }}</kbd><span>{{ view.name }}</span><span class="figure quiet count">{{ view.count }}</span>
    </NuxtLink>
    <div class="spacer" />
    <FirstSteps />
    <button type="button" class="view-link" @click="settingsOpen = true">
      Settings
    </button>
    <el-dialog v-model="settingsOpen" title="Settings" width="420">
      <el-form label-position="top">
        <el-form-item label="Theme">
          <el-radio-group v-model="settings.theme">
            <el-radio value="day">Day</el-radio>
            <el-radio value="lamp">Lamp</el-radio>
            <el-radio value="system">Same as the system</el-radio>
          </el-radio-group>
        </el-form-item>
        <el-form-item label="Middle C (note 60) is called">
          <el-radio-group v-model="settings.middleC">
            <el-radio value="C3">C3</el-radio>
            <el-radio value="C4">C4</el-radio>
          </el-radio-group>
        </el-form-item>
        <el-form-item label="Report a problem">
          <a :href="addressOf(studioRoutes.report, {})" download>Save a report</a>
          <p class="quiet about">
            Log, versions and counts, to send to whoever helps you. It holds no names of files, folders, sounds or kits.
          </p>
        </el-form-item>
      </el-form>
    </el-dialog>
  </nav>
</template>

<style scoped>
.rail { display: flex; flex-direction: column; width: 108px; border-right: 1px solid var(--rule); padding: 8px 0; }
.name { padding: 4px 12px 12px; font-weight: 600; font-size: 15px; letter-spacing: 0.02em; }
.view-link { display: flex; align-items: center; gap: 6px; height: 30px; padding: 0 10px; border: 0; background: none; color: var(--ink); font: inherit; text-decoration: none; text-align: left; cursor: pointer; }
.view-link:hover { background: var(--chosen); }
.about { margin: 2px 0 0; line-height: 18px; }
.here { --quiet: var(--ink); background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); font-weight: 600; }
.count { margin-left: auto; font-size: 10px; }
</style>
