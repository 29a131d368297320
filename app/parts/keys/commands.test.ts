import { describe, expect, it } from 'vitest'
import { chordLabel, chordOf, clashes, COMMANDS } from './commands'

const press = (key: string, held: Partial<Record<'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey', boolean>> = {}) =>
  chordOf({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held })

describe('keys', () => {
  it('are named by what is pressed', () => {
    expect([press('n'), press('N', { shiftKey: true }), press('z', { ctrlKey: true }), press('Z', { ctrlKey: true, shiftKey: true }), press('z', { metaKey: true }), press('ArrowDown', { shiftKey: true }), press('?', { shiftKey: true }), press(' ')])
      .toEqual(['n', 'Shift+N', 'Ctrl+z', 'Ctrl+Shift+Z', 'Ctrl+z', 'Shift+ArrowDown', '?', ' '])
  })

  it('are printed as a keyboard says them', () => {
    expect(['Ctrl+z', 'Shift+ArrowDown', ' ', '+', 'Escape', '?'].map(chordLabel)).toEqual(['Ctrl Z', 'Shift ↓', 'Space', '+', 'Esc', '?'])
  })

  it('mean one thing in one place', () => {
    expect(clashes(command => command.keys).map(pair => pair.map(command => command.id))).toEqual([])
    expect(new Set(COMMANDS.map(command => command.id)).size).toBe(COMMANDS.length)
    expect(clashes(command => command.id === 'like' ? ['f'] : command.keys).map(pair => pair.map(command => command.id))).toEqual([['like', 'favourite']])
  })
})
