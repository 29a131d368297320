<script setup lang="ts">
import { PADS_PER_BANK, type Layer, type Pad } from '~~/core/kit/document'
import { layersAt } from '~~/core/kit/voices'
import { carriesSounds, droppedSounds } from '../parts/dragged'
import { offerSound } from '../sound'
import { takes } from '../parts/useDropPlace'
import { usePadMenu } from './usePadMenu'
import { onceReleased } from '../parts/useRelease'
import { saying } from '../parts/useSay'
import { PAD_LETTERS } from '../parts/keys/padLetters'
import { useShownKit } from './useShownKit'
import type { WaveformPicture } from '../parts/useWaveformPainter'
import { useKit } from './kit'
import { useLevels } from './levels'
import { usePlacing } from './placing'
import { useSettings } from '../parts/settings'

/** The kit as ruled rows, one a pad, of the current bank; while placing is chosen, what it would become. */
const kit = useKit()
const levels = useLevels()
const settings = useSettings()
const placing = usePlacing()
const { shown, atHand, bank, becomes, outlineOf } = useShownKit()
const { openMenu, toggle } = usePadMenu()
const over = ref<number>()
const FULL_VELOCITY = 127
const BECOMES = { new: 'Would get its sounds', replaced: 'Its sounds would be replaced', left: 'Would stay as it is' } as const
const sheet = useTemplateRef<HTMLElement>('sheet')
defineExpose({ focus: () => sheet.value?.focus() })

const isSolo = computed(() => shown.value.pads.some(pad => pad.soloed))
const rows = computed(() => Array.from({ length: PADS_PER_BANK }, (_, i) => {
  const index = bank.value * PADS_PER_BANK + i
  const pad = shown.value.pads[index]!
  const level = pad === kit.kit.pads[index] ? levels.levelOf(index) : undefined
  return { index, letter: PAD_LETTERS[i]!, pad, picture: picture(pad), missing: missing(pad), level, isSilent: pad.muted || (isSolo.value && !pad.soloed), becomes: becomes(index) }
}))

/** The layer that is hit hardest stands for all. */
function leadOf(pad: Pad): Layer | undefined {
  return pad.layers[layersAt(pad, FULL_VELOCITY)[0] ?? 0]
}

/** The same object as long as nothing of it changes, so that an edit of one pad draws no other anew. */
const pictures = new WeakMap<Layer, WaveformPicture>()

function picture(pad: Pad): WaveformPicture | null {
  const layer = leadOf(pad)
  const outline = layer && outlineOf(layer.sound.id)
  if (!layer || !outline) return null
  const known = pictures.get(layer)
  if (known?.outline === outline) return known
  const made = { outline, start: layer.startFrame / layer.sound.frames, end: layer.endFrame / layer.sound.frames, reverse: layer.reverse }
  pictures.set(layer, made)
  return made
}

function missing(pad: Pad): string | undefined {
  for (const { sound } of pad.layers) {
    const why = kit.whyMissing(sound.id)
    if (why !== undefined) return why
  }
  return undefined
}

function press(index: number, event: PointerEvent): void {
  if (event.button !== 0) return
  const how = event.shiftKey ? 'extend' : event.ctrlKey || event.metaKey ? 'toggle' : 'alone'
  kit.select(index, how)
  if (how !== 'alone') return
  kit.playPad(index, settings.playing.velocity)
  onceReleased(() => kit.playPad(index, 0))
}

/** The sound of a pad goes to the desktop or another program as its file. */
function drag(pad: Pad, event: DragEvent): void {
  const sound = leadOf(pad)?.sound
  if (sound) offerSound(event, { hash: sound.id, name: sound.name, container: kit.containerOf(sound.id) })
}

function dragOver(index: number, event: DragEvent): void {
  if (!carriesSounds(event)) return
  event.preventDefault()
  over.value = index
}

function drop(index: number, event: DragEvent): void {
  over.value = undefined
  void saying(async () => placing.send(index, await kit.stillAtHand(droppedSounds(event))))
}

function outputName(id: string): string {
  return kit.kit.outputs.find(output => output.id === id)?.name ?? id
}
</script>

<template>
  <div ref="sheet" class="sheet" v-bind="takes({ type: 'kit' })" role="grid" aria-label="Kit sheet" tabindex="0" :aria-activedescendant="`pad-${atHand}`">
    <div class="head" role="row">
      <span role="columnheader">Pad</span><span role="columnheader" title="Mute, solo, hold">State</span><span role="columnheader">Note</span><span role="columnheader">Sound</span><span role="columnheader">Waveform</span>
      <span role="columnheader">Layers</span><span role="columnheader" class="right">Gain, dB</span><span role="columnheader" class="right" title="Loudness of a hit at full velocity, measured as the pad plays it">LUFS</span><span role="columnheader" class="right">Pan</span>
      <span role="columnheader" class="right" title="Choke group">Cut</span><span role="columnheader">Output</span>
    </div>
    <Deferred>
      <div
        v-for="{ index, letter, pad, picture: drawn, missing: reason, level, isSilent, becomes: comes } in rows"
        v-bind="takes({ type: 'pad', padIndex: index })"
        :id="`pad-${index}`"
        :key="index"
        class="row"
        role="row"
        :aria-selected="index === atHand || kit.chosenPads.has(index)"
        :title="comes && BECOMES[comes]"
        :class="{ 'at-hand': index === atHand, 'new': comes === 'new', 'replaced': comes === 'replaced', 'left': comes === 'left', 'chosen': kit.chosenPads.has(index), 'over': over === index, 'lit': kit.lit.has(index), 'silent': isSilent }"
        @pointerdown="press(index, $event)"
        @contextmenu="openMenu($event, index)"
        @dragover="dragOver(index, $event)"
        @dragleave="over = undefined"
        @drop.prevent="drop(index, $event)"
      >
        <PadCells :index="index" :letter="letter" :pad="pad" :picture="drawn" :missing="reason" :peak-db="level?.peakDb" :hit-lufs="level?.hitLufs" :output="outputName(pad.output)" @toggle="toggle($event.key, index)" @drag="drag(pad, $event)" />
      </div>
    </Deferred>
  </div>
</template>

<style scoped>
.sheet { flex: 1 1 0; min-height: calc(5 * var(--row) + 2px); overflow: auto; }
.head, .row { display: grid; grid-template-columns: 60px 74px 68px minmax(100px, 3fr) minmax(58px, 1fr) 62px 54px 44px 32px 24px 46px; align-items: center; gap: 0 7px; min-width: 716px; padding: 0 10px 0 0; }
/* Where the sheet is narrower than its columns it scrolls sideways below the pad and its sound. */
.head > :nth-child(1), .row > :deep(:nth-child(1)) { position: sticky; left: 0; z-index: 1; padding-left: 10px; align-self: stretch; align-items: center; background: inherit; box-shadow: inherit; }
.head > :nth-child(4), .row > :deep(:nth-child(4)) { position: sticky; left: 67px; z-index: 1; align-self: stretch; align-items: center; background: inherit; }
.head > :nth-child(1), .head > :nth-child(4) { display: flex; height: calc(var(--row) - 1px); }
.head > * { white-space: nowrap; }
.head { position: sticky; top: 0; z-index: 1; height: var(--row); background: var(--paper); border-bottom: 1px solid var(--rule); color: var(--quiet); font-size: 12px; }
/* It lies over the ring of the sheet that has the keys. */
.sheet:focus-visible > .head { box-shadow: inset 2px 2px 0 var(--accent), inset -2px 0 0 var(--accent); }
.sheet:focus-visible > .head > :nth-child(4) { box-shadow: inset 0 2px 0 var(--accent); }
.row { height: var(--row); background: var(--paper); border-bottom: 1px solid color-mix(in srgb, var(--rule) 55%, transparent); cursor: default; user-select: none; }
.right { text-align: right; }
.chosen { background: var(--chosen); }
.at-hand { background: var(--at-hand); box-shadow: inset 3px 0 0 var(--accent); }
/* What would come stands out against what stays. */
.new { box-shadow: inset 3px 0 0 var(--accent); }
.replaced { box-shadow: inset 3px 0 0 var(--look); }
.left { opacity: 0.5; }
.over { box-shadow: inset 0 0 0 2px var(--look); }
</style>
