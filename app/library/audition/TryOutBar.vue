<script setup lang="ts">
import { padLabel } from '~~/core/kit/padLabel'
import { noteLabel } from '~~/core/audio/notes'
import { kindLabel } from '~~/core/search/kinds'
import { signedDb } from '../../parts/useFormat'
import { useGrooves, useTryOut } from '../../grooves'
import { useLibrary } from '../library'
import { useSettings } from '../../parts/settings'

/** The try-out: on which pad, what is tried, and what it is tried against. */
const emit = defineEmits<{ keep: [] }>()

const tryOut = useTryOut()
const library = useLibrary()
const settings = useSettings()
const grooves = useGrooves()

const padText = computed(() => tryOut.pad ? `pad ${padLabel(tryOut.padIndex)}, ${noteLabel(tryOut.pad.note, settings.middleC)}` : '')
const had = computed(() => tryOut.pad?.layers[0]?.sound.name)
</script>

<template>
  <section class="bar tried" aria-label="Try-out" role="status">
    <strong>Trying on {{ padText }}</strong>
    <span class="cut">
      <KindStamp v-if="tryOut.candidate" :kind="tryOut.candidate.kind" /> {{ tryOut.candidate?.sound.name ?? 'no candidate yet' }}
      <span class="quiet">{{ tryOut.candidate?.kind ? kindLabel(tryOut.candidate.kind) : '' }} · {{ signedDb(tryOut.gainDb) }}{{ had ? ` · in place of ${had}` : '' }}</span>
    </span>
    <span class="spacer" />
    <span class="quiet">{{ tryOut.ridesGroove ? `in ${grooves.pattern.name}` : tryOut.backing ? `with ${tryOut.backing.name}` : 'with the kit' }}</span>
    <template v-if="tryOut.ridesGroove" />
    <el-button v-else-if="!tryOut.backing" size="small" :disabled="!library.atCursor" title="Play the selected sound along, at its own tempo" @click="tryOut.setBacking(library.atCursor)">
      With this loop instead
    </el-button>
    <el-button v-else size="small" @click="tryOut.setBacking(undefined)">
      With the kit instead
    </el-button>
    <label v-if="!tryOut.ridesGroove" class="tempo"><el-input-number v-if="!tryOut.backing" v-model="tryOut.bpm" :min="40" :max="240" size="small" controls-position="right" aria-label="Tempo in beats a minute" /><span v-else class="figure">{{ tryOut.tempo.bpm.toFixed(1) }}</span> BPM</label>
    <el-button size="small" @click="tryOut.pause()">
      {{ tryOut.isRunning ? 'Pause' : 'Go on' }}
    </el-button>
    <el-button size="small" @click="tryOut.end()">
      Go back
    </el-button>
    <el-button size="small" type="primary" :disabled="!tryOut.candidate" @click="emit('keep')">
      Keep it on {{ padLabel(tryOut.padIndex) }}
    </el-button>
  </section>
</template>

<style scoped>
.tried { --quiet: var(--ink); background: var(--chosen); }
.tempo { display: flex; align-items: center; gap: 4px; white-space: nowrap; }
.tempo .el-input-number { width: 86px; }
.cut { min-width: 120px; }
.tried > :not(.cut, .tempo) { white-space: nowrap; flex: none; }
.tried > .quiet { max-width: 170px; overflow: hidden; text-overflow: ellipsis; }
</style>
