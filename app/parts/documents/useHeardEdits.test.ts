import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, shallowRef } from 'vue'
import { useHeardEdits, type EditLabels } from './useHeardEdits'

describe('edits for screen readers', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => void vi.useRealTimers())

  async function after(...steps: readonly EditLabels[]): Promise<string> {
    const labels = shallowRef<EditLabels>({ canUndo: 'Rename the kit' })
    const scope = effectScope()
    const heard = scope.run(() => useHeardEdits(() => labels.value))!
    for (const step of steps) {
      labels.value = step
      await nextTick()
      await vi.advanceTimersByTimeAsync(1100)
    }
    const { value } = heard
    scope.stop()
    return value
  }

  it('nothing is heard of what was there before', async () => {
    expect(await after()).toBe('')
    expect(await after({ canUndo: 'Rename the kit' })).toBe('')
  })

  it('an edit, its undoing and its doing again are named', async () => {
    expect(await after({ canUndo: 'Clear A1' })).toBe('Clear A1')
    expect(await after({ canUndo: 'Clear A1' }, { canUndo: 'Rename the kit', canRedo: 'Clear A1' })).toBe('Undone: Clear A1')
    expect(await after({ canUndo: 'Clear A1' }, { canUndo: 'Rename the kit', canRedo: 'Clear A1' }, { canUndo: 'Clear A1' })).toBe('Redone: Clear A1')
  })

  it('one of many in a second is the last', async () => {
    const labels = shallowRef<EditLabels>({})
    const scope = effectScope()
    const heard = scope.run(() => useHeardEdits(() => labels.value))!
    const all: string[] = []
    for (let i = 0; i < 10; i++) {
      labels.value = { canUndo: `Gain ${i}` }
      await nextTick()
      await vi.advanceTimersByTimeAsync(50)
      if (heard.value !== all.at(-1)) all.push(heard.value)
    }
    await vi.advanceTimersByTimeAsync(1100)
    expect(all.length).toBeLessThanOrEqual(2)
    expect(heard.value).toBe('Gain 9')
    scope.stop()
  })
})
