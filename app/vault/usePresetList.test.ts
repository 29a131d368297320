import { nextTick, shallowRef } from 'vue'
import { expect, it } from 'vitest'
import type { PresetView } from '~~/contract/vault'
import { usePresetList } from './usePresetList'

const preset = (name: string, pads: number, more: Partial<PresetView> = {}): PresetView => ({
  id: name, name, type: 'kit', folder: name, revision: 1, revisions: 1, storedAt: `2026-01-${String(pads).padStart(2, '0')}T00:00:00Z`, pads, samples: pads, bytes: pads * 1000, problem: null, patternId: null, ...more,
})
const PRESETS = [preset('Deck 10', 4), preset('deck 2', 16), preset('Fähre', 8), preset('Rim of the bell', 1, { type: 'pad' })]
const namesOf = ({ found }: ReturnType<typeof usePresetList>) => found.value.map(one => one.name)

it('sorts as people count, and by any figure from the largest, either way', () => {
  const list = usePresetList(() => PRESETS)
  expect(namesOf(list)).toEqual(['deck 2', 'Deck 10', 'Fähre', 'Rim of the bell'])
  list.sortBy('pads')
  expect(namesOf(list)).toEqual(['deck 2', 'Fähre', 'Deck 10', 'Rim of the bell'])
  list.sortBy('pads')
  expect(namesOf(list)).toEqual(['Rim of the bell', 'Deck 10', 'Fähre', 'deck 2'])
  list.sortBy('stored')
  expect(namesOf(list)[0]).toBe('deck 2')
  list.sortBy('name')
  expect(namesOf(list)[0]).toBe('deck 2')
  list.sortBy('no such column')
  expect(list.sortedBy.value).toBe('name')
})

it('finds by words of the name, and by what a preset is', () => {
  const list = usePresetList(() => PRESETS)
  list.words.value = 'fahre'
  expect(namesOf(list)).toEqual(['Fähre'])
  list.words.value = 'pad bell'
  expect(namesOf(list)).toEqual(['Rim of the bell'])
})

it('stays on its preset through another order, words and a new one; where it is gone, near its place', async () => {
  const presets = shallowRef(PRESETS)
  const list = usePresetList(() => presets.value)
  list.moveToId('Fähre')
  expect(list.cursor.value).toBe(2)
  list.sortBy('pads')
  await nextTick()
  expect(list.atCursor.value?.name).toBe('Fähre')
  list.sortBy('name')
  presets.value = [...PRESETS, preset('Anchor', 2)]
  await nextTick()
  expect([list.cursor.value, list.atCursor.value?.name]).toEqual([3, 'Fähre'])
  presets.value = presets.value.filter(one => one.name !== 'Fähre')
  await nextTick()
  expect(list.atCursor.value?.name).toBe('Rim of the bell')
  list.words.value = 'nothing like it'
  await nextTick()
  expect([list.cursor.value, list.atCursor.value]).toEqual([0, undefined])
})

it('stays on the first one as well, though nobody went there', async () => {
  const presets = shallowRef(PRESETS)
  const list = usePresetList(() => presets.value)
  presets.value = [...PRESETS, preset('Anchor', 2)]
  await nextTick()
  expect([list.cursor.value, list.atCursor.value?.name]).toEqual([1, 'deck 2'])
})

it('keeps within the list', () => {
  const list = usePresetList(() => PRESETS)
  list.moveTo(1e6)
  expect(list.cursor.value).toBe(3)
  list.moveTo(-5)
  expect(list.cursor.value).toBe(0)
})
