import { computed, ref, watch } from 'vue'
import { holdsWords } from '~~/core/search/holdsWords'
import { inNaturalOrder } from '~~/core/search/naturalKey'
import type { PresetView } from '~~/contract/vault'

const FIGURES = {
  pads: (preset: PresetView) => preset.pads,
  samples: (preset: PresetView) => preset.samples,
  size: (preset: PresetView) => preset.bytes,
  revision: (preset: PresetView) => preset.revision,
  stored: (preset: PresetView) => Date.parse(preset.storedAt),
} as const

/** What presets are sorted by. */
export type PresetOrder = 'name' | keyof typeof FIGURES

const isOrder = (key: string): key is PresetOrder => key === 'name' || key in FIGURES

/** Presets found by words of their names and sorted, with a cursor that stays on its preset whatever becomes of the list. */
export function usePresetList(presets: () => readonly PresetView[]) {
  const words = ref('')
  const sortedBy = ref<PresetOrder>('name')
  const isDescending = ref(false)
  const cursor = ref(0)
  let atId: string | undefined

  const byName = computed(() => inNaturalOrder(presets(), preset => preset.name))
  const sorted = computed(() => {
    const order = sortedBy.value
    if (order === 'name') return isDescending.value ? byName.value.toReversed() : byName.value
    const figure = FIGURES[order]
    return byName.value.toSorted((a, b) => isDescending.value ? figure(b) - figure(a) : figure(a) - figure(b))
  })
  const found = computed(() => sorted.value.filter(preset => holdsWords(`${preset.name} ${preset.type}`, words.value)))
  const atCursor = computed(() => found.value[cursor.value])

  function moveTo(index: number): void {
    cursor.value = Math.max(0, Math.min(found.value.length - 1, index))
    atId = atCursor.value?.id
  }

  /** Goes to a preset, unless the words leave it out. */
  function moveToId(id: string): void {
    const index = found.value.findIndex(preset => preset.id === id)
    if (index >= 0) moveTo(index)
  }

  /** Sorts by another column, figures from the largest down; by the same one, the other way round. */
  function sortBy(key: string): void {
    if (!isOrder(key)) return
    isDescending.value = sortedBy.value === key ? !isDescending.value : key !== 'name'
    sortedBy.value = key
  }

  watch(found, () => {
    const index = found.value.findIndex(preset => preset.id === atId)
    cursor.value = index >= 0 ? index : Math.max(0, Math.min(cursor.value, found.value.length - 1))
    atId ??= atCursor.value?.id
  }, { immediate: true })

  return { words, sortedBy, isDescending, cursor, found, atCursor, moveTo, moveToId, sortBy }
}
