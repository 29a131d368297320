<script setup lang="ts">
import { useKit, useMidiInput } from './bench'
import { useCommands } from './parts/useCommands'
import { useEscape } from './parts/useEscape'
import { openServerEvents } from './parts/useServerEvents'
import { saying } from './parts/useSay'
import { useGrooves } from './grooves'
import { useJobs } from './parts/jobs'
import { useLibrary, useSaved } from './library'
import { usePlayer } from './sound'
import { useSettings } from './parts/settings'
import { useTray } from './tray'
import { useVault } from './vault'

const tray = useTemplateRef<{ focusTray: () => void }>('tray')
const library = useLibrary()
const kit = useKit()
const player = usePlayer()
const grooves = useGrooves()
useSettings()
openServerEvents()

onMounted(() => saying(() => Promise.all([
  library.loadSources(), library.start(), kit.openLast().then(grooves.openFirst), useTray().load(), useVault().load(), useJobs().refresh(), useSaved().load(),
])))
void useMidiInput()
useEscape()

const keysOpen = ref(false)
useCommands('everywhere', {
  tray: () => tray.value?.focusTray(),
  keys: () => keysOpen.value = true,
  pattern: () => grooves.isRunning ? grooves.stop() : void saying(() => grooves.play()),
})

// The first gesture of any sort lets the browser play.
window.addEventListener('pointerdown', () => {
  if (player.needsGesture) player.again()
})
</script>

<template>
  <div class="frame">
    <NavRail />
    <main class="main">
      <JobLines />
      <DropZone />
      <div class="page">
        <Deferred>
          <NuxtPage />
        </Deferred>
      </div>
    </main>
    <TrayPanel ref="tray" />
    <PlayerStrip class="player" />
    <KeysDialog v-model="keysOpen" />
    <PlacingDialog />
    <ContextMenu />
  </div>
</template>

<style scoped>
.frame { display: grid; grid-template: minmax(0, 1fr) auto / auto minmax(0, 1fr) auto; height: 100%; }
.main { display: flex; flex-direction: column; min-width: 0; min-height: 0; }
.page { flex: 1; min-height: 0; }
.player { grid-column: 1 / -1; }
</style>
