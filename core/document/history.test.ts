import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MOST_UNDO_STEPS, record, redo, startHistory, undo, type History } from './history'

type Act = { readonly type: 'edit', readonly to: number, readonly gesture?: string } | { readonly type: 'undo' } | { readonly type: 'redo' }

const acts: fc.Arbitrary<Act[]> = fc.array(fc.oneof(
  fc.record({ type: fc.constant('edit' as const), to: fc.integer({ min: 0, max: 5 }), gesture: fc.option(fc.constantFrom('a', 'b'), { nil: undefined }) }),
  fc.record({ type: fc.constant('undo' as const) }),
  fc.record({ type: fc.constant('redo' as const) }),
), { maxLength: 80 })

const act = (history: History<number>, done: Act) => done.type === 'edit' ? record(history, done.to, `to ${done.to}`, done.gesture) : done.type === 'undo' ? undo(history) : redo(history)

describe('undo and redo', () => {
  it('undo after redo, and redo after undo, lead back to the same state', () => {
    fc.assert(fc.property(acts, (list) => {
      let history = startHistory(0)
      for (const done of list) {
        history = act(history, done)
        if (history.past.length > 0) {
          const back = undo(history)
          expect(redo(back).present).toBe(history.present)
          expect(back.future[0]!.label).toBe(history.past.at(-1)!.label)
        }
        if (history.future.length > 0) expect(undo(redo(history)).present).toBe(history.present)
      }
    }))
  })

  it('undoing everything leads to the beginning, and redoing everything back', () => {
    fc.assert(fc.property(acts, (list) => {
      const end = list.reduce(act, startHistory(0))
      let history = end
      while (history.past.length > 0) history = undo(history)
      expect(history.present).toBe(0)
      expect(undo(history)).toBe(history)
      while (history.future.length > 0) history = redo(history)
      while (history.past.length > end.past.length) history = undo(history)
      expect(history.present).toBe(end.present)
    }))
  })

  it('an edit that changes nothing adds no step; one gesture is one step', () => {
    const once = record(startHistory(1), 2, 'drag', 'gain')
    expect(record(once, 2, 'drag', 'gain')).toBe(once)
    const dragged = [3, 4, 5].reduce((history, to) => record(history, to, 'drag', 'gain'), once)
    expect(dragged.past).toHaveLength(1)
    expect(undo(dragged).present).toBe(1)
    expect(record(dragged, 6, 'other', 'pan').past).toHaveLength(2)
  })

  it('an edit after an undo forgets what was undone', () => {
    const history = record(undo(record(record(startHistory(0), 1, 'one'), 2, 'two')), 9, 'nine')
    expect(history.future).toEqual([])
    expect(undo(history).present).toBe(1)
  })

  it('keeps the last five hundred steps', () => {
    let history = startHistory(0)
    for (let i = 1; i <= MOST_UNDO_STEPS + 50; i++) history = record(history, i, 'edit')
    expect(history.past).toHaveLength(MOST_UNDO_STEPS)
    while (history.past.length > 0) history = undo(history)
    expect(history.present).toBe(50)
  })
})
