import { computed, ref, shallowRef } from 'vue'
import { PADS_PER_BANK, type Kit } from '~~/core/kit/document'

/** The current pad, and the pads that are chosen for an edit of them all. */
export function usePadChoice(kit: () => Kit) {
  const padIndex = ref(0)
  /** The layer of the current pad that is edited. */
  const layerIndex = ref(0)
  const chosenPads = shallowRef<ReadonlySet<number>>(new Set())
  const pad = computed(() => kit().pads[padIndex.value]!)
  const bank = computed(() => Math.floor(padIndex.value / PADS_PER_BANK))
  /** The pads that an edit is for: the chosen ones, or the current one. */
  const editedPads = computed(() => chosenPads.value.size > 0 ? [...chosenPads.value].sort((a, b) => a - b) : [padIndex.value])

  /** Makes a pad the current one; with `extend` or `toggle` several are chosen. */
  function select(index: number, how: 'alone' | 'extend' | 'toggle' = 'alone'): void {
    const target = Math.max(0, Math.min(kit().pads.length - 1, index))
    const before = chosenPads.value.size > 0 ? chosenPads.value : new Set([padIndex.value])
    if (how === 'alone') chosenPads.value = new Set()
    else if (how === 'toggle') {
      const next = new Set(before)
      if (!next.delete(target)) next.add(target)
      chosenPads.value = next
    }
    else {
      const [low, high] = [Math.min(padIndex.value, target), Math.max(padIndex.value, target)]
      chosenPads.value = new Set([...before, ...Array.from({ length: high - low + 1 }, (_, i) => low + i)])
    }
    if (target !== padIndex.value) layerIndex.value = 0
    padIndex.value = target
  }

  /** Chooses every pad that holds a sound. */
  function chooseFilled(): void {
    chosenPads.value = new Set(kit().pads.flatMap((candidate, index) => candidate.layers.length > 0 ? [index] : []))
  }

  /** Lets go of pads that the kit has no longer. */
  function keepWithin(): void {
    const count = kit().pads.length
    padIndex.value = Math.min(padIndex.value, count - 1)
    chosenPads.value = new Set([...chosenPads.value].filter(index => index < count))
    layerIndex.value = Math.max(0, Math.min(layerIndex.value, pad.value.layers.length - 1))
  }

  return { padIndex, layerIndex, chosenPads, pad, bank, editedPads, select, chooseFilled, keepWithin }
}
