<script setup lang="ts">
import { Check, Close } from '@element-plus/icons-vue'
import { FIRST_STEPS, useFirstSteps, type FirstStep } from '../library'

/** The five steps to a first kit, in the corner of the frame until they are done or dismissed. A click leads to where each is done. */
const steps = useFirstSteps()

const WORDS: Readonly<Record<FirstStep, { readonly does: string, readonly how: string, readonly view: string }>> = {
  'bring in': { does: 'Bring in', how: 'Bring in a folder of sounds: B in the Library, or drop one on the page', view: '/library' },
  'listen': { does: 'Listen', how: 'Go down the list with the arrow keys: each sound plays', view: '/library' },
  'tray': { does: 'Tray', how: 'Press Enter on sounds you like: they go to the tray', view: '/library' },
  'kit': { does: 'Kit', how: 'Put sounds on pads: P in the Library, or drag them from the tray', view: '/bench' },
  'store': { does: 'Store', how: 'Store the kit with copies of its samples: Ctrl S on the Bench', view: '/bench' },
}
</script>

<template>
  <section v-if="steps.isOn" class="first" aria-label="First kit">
    <div class="head">
      <span>First kit</span>
      <button type="button" class="close" aria-label="Dismiss the first steps" @click="steps.dismiss()">
        <el-icon><Close /></el-icon>
      </button>
    </div>
    <button v-for="(step, i) in FIRST_STEPS" :key="step" type="button" class="step" :class="{ done: steps.isDone(step), next: steps.next === step }" :title="WORDS[step].how" :aria-label="`Step ${i + 1}, ${steps.isDone(step) ? 'done' : 'to do'}: ${WORDS[step].how}`" @click="navigateTo(WORDS[step].view)">
      <span class="tick"><el-icon v-if="steps.isDone(step)"><Check /></el-icon><template v-else>{{ i + 1 }}</template></span>{{ WORDS[step].does }}
    </button>
  </section>
</template>

<style scoped>
.first { margin: 0 8px 8px 10px; border-top: 1px solid var(--rule); border-bottom: 1px solid var(--rule); font-size: 12px; }
.head { display: flex; align-items: center; justify-content: space-between; font-weight: 600; }
.close { display: inline-flex; align-items: center; justify-content: center; width: 24px; height: 24px; padding: 0; border: 0; background: none; color: var(--quiet); cursor: pointer; }
.step { display: flex; align-items: center; gap: 6px; width: 100%; height: 24px; padding: 0 2px; border: 0; background: none; color: var(--ink); font: inherit; text-align: left; cursor: pointer; }
.step:hover { background: var(--chosen); }
.tick { display: inline-flex; align-items: center; justify-content: center; width: 16px; height: 16px; border: 1px solid var(--rule); border-radius: 2px; font: 600 10px var(--figures); }
.done { color: var(--quiet); }
.done .tick { border-color: var(--accent); color: var(--accent); }
.next { font-weight: 600; }
.next .tick { border-color: var(--accent); }
</style>
