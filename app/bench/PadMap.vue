<script setup lang="ts">
import { PADS_PER_BANK } from '~~/core/kit/document'
import { noteLabel } from '~~/core/audio/notes'
import { padLabel } from '~~/core/kit/padLabel'
import { carriesSounds, droppedSounds } from '../parts/dragged'
import { PAD_LETTERS } from '../parts/keys/padLetters'
import { takes } from '../parts/useDropPlace'
import { usePadMenu } from './usePadMenu'
import { onceReleased } from '../parts/useRelease'
import { saying } from '../parts/useSay'
import { useShownKit } from './useShownKit'
import { useKit } from './kit'
import { usePlacing } from './placing'
import { useSettings } from '../parts/settings'
import { useTargets } from '../fit'

/** The pads of the current bank, as they lie on the kit's target: press to play (lower is harder), drop sounds to put them there. */
const kit = useKit()
const settings = useSettings()
const placing = usePlacing()
const targets = useTargets()
const { shown, atHand, bank } = useShownKit()
const { openMenu } = usePadMenu()
const over = ref<number>()
const columns = computed(() => targets.limitsOf(kit.kit.target)?.columns ?? 4)

const pads = computed(() => Array.from({ length: PADS_PER_BANK }, (_, i) => {
  const index = bank.value * PADS_PER_BANK + i
  return { index, letter: PAD_LETTERS[i]!, pad: shown.value.pads[index]! }
}))

function press(index: number, event: PointerEvent): void {
  if (event.button !== 0) return
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const pressed = Math.round(30 + 97 * Math.min(1, Math.max(0, (event.clientY - box.top) / box.height)))
  const velocity = settings.playing.isFixed ? settings.playing.velocity : pressed
  kit.select(index, event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'alone')
  kit.playPad(index, velocity)
  onceReleased(() => kit.playPad(index, 0))
}

function drop(index: number, event: DragEvent): void {
  over.value = undefined
  void saying(async () => placing.send(index, await kit.stillAtHand(droppedSounds(event))))
}

function dragOver(index: number, event: DragEvent): void {
  if (!carriesSounds(event)) return
  event.preventDefault()
  over.value = index
}
</script>

<template>
  <div class="map" :style="{ gridTemplateColumns: `repeat(${columns}, 1fr)` }" role="group" aria-label="Pads of the current bank">
    <button
      v-for="{ index, letter, pad } in pads"
      v-bind="takes({ type: 'pad', padIndex: index })"
      :key="index"
      type="button"
      class="pad"
      tabindex="-1"
      :class="{ 'at-hand': index === atHand, 'chosen': kit.chosenPads.has(index), 'empty-pad': pad.layers.length === 0, 'lit': kit.lit.has(index), 'over': over === index }"
      :title="`Pad ${padLabel(index)}, ${noteLabel(pad.note, settings.middleC)}${pad.name ? `: ${pad.name}` : ', empty'}`"
      :aria-label="`Pad ${padLabel(index)}, ${noteLabel(pad.note, settings.middleC)}${pad.name ? `: ${pad.name}` : ', empty'}`"
      @pointerdown="press(index, $event)"
      @contextmenu="openMenu($event, index)"
      @dragover="dragOver(index, $event)"
      @dragleave="over = undefined"
      @drop.prevent="drop(index, $event)"
    >
      <span class="top"><span class="figure">{{ padLabel(index) }}</span><kbd>{{ letter }}</kbd></span>
      <span class="pad-name">{{ pad.name }}</span>
    </button>
  </div>
</template>

<style scoped>
.map { display: grid; border-top: 1px solid var(--rule); border-left: 1px solid var(--rule); }
.pad { display: flex; flex-direction: column; gap: 2px; height: 52px; padding: 3px 4px; border: 0; border-right: 1px solid var(--rule); border-bottom: 1px solid var(--rule); background: var(--sheet); color: var(--ink); font: inherit; font-size: 11px; line-height: 1.15; text-align: left; overflow: hidden; cursor: pointer; touch-action: none; }
.top { display: flex; justify-content: space-between; }
.top .figure { font-size: 10px; color: var(--quiet); }
.top kbd { font-size: 9px; padding: 0 3px; }
.pad-name { overflow: hidden; display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2; line-clamp: 2; overflow-wrap: anywhere; }
.empty-pad { background: var(--paper); }
.chosen { background: var(--chosen); }
.at-hand { background: var(--at-hand); box-shadow: inset 0 0 0 2px var(--accent); }
.lit { background: var(--accent); color: var(--on-accent); }
.lit .figure { color: inherit; }
.over { box-shadow: inset 0 0 0 2px var(--look); }
</style>
