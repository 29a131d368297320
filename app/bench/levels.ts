import { watchDebounced } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { Kit, Pad } from '~~/core/kit/document'
import type { PadLevel } from '~~/core/kit/levels'
import type { HitsMeasured } from '~~/core/render/measureHits'
import { measureKitHits } from '../sound'
import { useKit } from './kit'

const REST_MS = 250

/** How loud each pad is as it plays, and what the loudest come to together: measured by rendering, off the page's thread. */
export const useLevels = defineStore('levels', () => {
  const kit = useKit()
  /** Pads never change: what was measured of one holds as long as it is there. The kit's own gain is added afterwards. */
  const measured = new WeakMap<Pad, PadLevel | null>()
  const changes = ref(0)
  const isMeasuring = ref(false)
  /** How many of the loudest pads are thought to be hit at once. */
  const atOnce = ref(4)
  const together = shallowRef<HitsMeasured & { readonly padIndexes: readonly number[], readonly of: Kit }>()
  const wantsTogether = ref(false)

  watchDebounced([() => kit.kit, () => kit.bank, () => kit.isLoading, wantsTogether, atOnce], () => void measureAll(), { debounce: REST_MS, immediate: true })

  /** Undefined while it is not measured, and for a pad that cannot be. */
  function levelOf(padIndex: number): PadLevel | undefined {
    void changes.value
    const pad = kit.kit.pads[padIndex]
    const level = pad && measured.get(pad)
    return level ? { peakDb: level.peakDb + kit.kit.gainDb, hitLufs: level.hitLufs + kit.kit.gainDb } : undefined
  }

  /** True while any of some pads has yet to be measured. */
  function awaits(padIndexes: readonly number[]): boolean {
    void changes.value
    return padIndexes.some(index => kit.kit.pads[index]!.layers.length > 0 && measured.get(kit.kit.pads[index]!) === undefined)
  }

  let running: Promise<void> | undefined
  function measureAll(): Promise<void> {
    running ??= measureRest().finally(() => {
      running = undefined
      isMeasuring.value = false
    })
    return running
  }

  async function measureRest(): Promise<void> {
    const state = kit.kit
    for (;;) {
      const next = nextPad()
      // What is played comes first: decoding and measuring would keep one another waiting.
      if (!next || kit.isLoading) break
      isMeasuring.value = true
      measured.set(next, await measureOne(next))
      changes.value++
    }
    await measureTogether()
    // What was edited in the meantime was not measured together with the rest.
    if (kit.kit !== state && !kit.isLoading) await measureRest()
  }

  /** Those of the bank in sight first. */
  function nextPad(): Pad | undefined {
    const { pads } = kit.kit
    const from = kit.bank * 16
    const isOpen = (pad: Pad) => pad.layers.length > 0 && measured.get(pad) === undefined
    return pads.slice(from, from + 16).find(isOpen) ?? pads.find(isOpen)
  }

  async function measureOne(pad: Pad): Promise<PadLevel | null> {
    const alone: Kit = { ...kit.kit, gainDb: 0, pads: [{ ...pad, muted: false, soloed: false }] }
    return measureKitHits(alone, [pad.note]).then(({ peakDb, hitLufs }) => ({ peakDb, hitLufs }), () => null)
  }

  const loudest = computed(() => {
    const levels = kit.kit.pads.flatMap((pad, padIndex) => {
      const level = levelOf(padIndex)
      return level && pad.layers.length > 0 && !pad.muted ? [{ padIndex, peakDb: level.peakDb }] : []
    })
    return levels.sort((a, b) => b.peakDb - a.peakDb).slice(0, atOnce.value).map(({ padIndex }) => padIndex).sort((a, b) => a - b)
  })

  /** True while what was measured together is of the kit as it is. */
  const isTogetherNow = computed(() => together.value?.of === kit.kit && together.value.padIndexes.join() === loudest.value.join())

  async function measureTogether(): Promise<void> {
    const padIndexes = loudest.value
    const { kit: of } = kit
    if (!wantsTogether.value || padIndexes.length === 0) return
    isMeasuring.value = true
    const state: Kit = { ...of, pads: of.pads.map((pad, index) => padIndexes.includes(index) ? { ...pad, soloed: false } : { ...pad, layers: [], soloed: false }) }
    const found = await measureKitHits(state, [...new Set(padIndexes.map(index => state.pads[index]!.note))]).catch(() => undefined)
    together.value = found && { ...found, padIndexes, of }
  }

  return { levelOf, awaits, isMeasuring, atOnce, together, isTogetherNow, wantsTogether, loudest, measureAll }
})
