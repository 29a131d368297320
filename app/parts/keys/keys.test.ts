import { beforeEach, describe, expect, it, vi } from 'vitest'
import { freshStores } from '../../../tests/helpers/stores'
import { chordLabel, chordOf, COMMANDS, type Command } from './commands'
import { useKeyChoices } from './keys'

vi.mock('@vueuse/core', async () => {
  const { ref } = await import('vue')
  return { useLocalStorage: <T>(_key: string, value: T) => ref(value) }
})

const command = (id: string): Command => COMMANDS.find(candidate => candidate.id === id)!
const pressed = (key: string, held: Partial<Record<'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey', boolean>> = {}) => chordOf({ key, ctrlKey: false, metaKey: false, altKey: false, shiftKey: false, ...held })

beforeEach(freshStores)

describe('keys', () => {
  it('call what they came with: every key of every command, in its place', () => {
    const keys = useKeyChoices()
    for (const { id, place, keys: own } of COMMANDS) for (const key of own) expect(keys.commandAt(place, key)).toBe(id)
    expect(keys.commandAt('library', 'Ctrl+Alt+F12')).toBeUndefined()
  })

  it('can be chosen otherwise: the new key calls it, the old one calls nothing, and the foot line says the new one', () => {
    const keys = useKeyChoices()
    const favourite = command('favourite')
    expect(keys.isChanged(favourite)).toBe(false)
    expect(keys.choose(favourite, 'F7')).toBeUndefined()
    expect([keys.commandAt('library', 'F7'), keys.commandAt('library', 'f')]).toEqual(['favourite', undefined])
    expect(keys.labelOf('favourite')).toBe(chordLabel('F7'))
    expect(keys.hints(['play', 'favourite']).map(hint => hint.keys)).toEqual([[chordLabel(' ')], [chordLabel('F7')]])
    expect(keys.isChanged(favourite)).toBe(true)
  })

  it('are never given to two commands of one place: the one that has it is reported, and nothing changes', () => {
    const keys = useKeyChoices()
    const taken = keys.choose(command('favourite'), 'x')
    expect(taken?.id).toBe('aside')
    expect([keys.commandAt('library', 'f'), keys.commandAt('library', 'x')]).toEqual(['favourite', 'aside'])
  })

  it('nor where the other one holds everywhere', () => {
    const keys = useKeyChoices()
    const everywhere = COMMANDS.find(candidate => candidate.place === 'everywhere' && !candidate.isFixed)!
    expect(keys.choose(command('favourite'), everywhere.keys[0]!)?.id).toBe(everywhere.id)
  })

  it('that were given up can be taken, and all go back to what they were', () => {
    const keys = useKeyChoices()
    keys.choose(command('favourite'), 'F7')
    expect(keys.choose(command('aside'), 'f')).toBeUndefined()
    expect(keys.commandAt('library', 'f')).toBe('aside')
    keys.reset(command('aside'))
    expect(keys.commandAt('library', 'x')).toBe('aside')
    expect(keys.commandAt('library', 'F7')).toBe('favourite')
    keys.reset()
    expect(keys.commandAt('library', 'f')).toBe('favourite')
  })

  it('are said in other words where a view asks for them', () => {
    const hint = useKeyChoices().hints(['play'], { play: 'hear it' }).find(({ does }) => does === 'hear it')
    expect(hint?.keys).toEqual([chordLabel(' ')])
    expect(useKeyChoices().labelOf('nothing of the sort')).toBeUndefined()
  })
})

describe('a pressed key', () => {
  it('is written with what is held, in one order', () => {
    expect(pressed('a')).toBe('a')
    expect(pressed('z', { ctrlKey: true })).toBe('Ctrl+z')
    expect(pressed('z', { metaKey: true })).toBe(pressed('z', { ctrlKey: true }))
    expect(pressed('Z', { ctrlKey: true, shiftKey: true })).toBe('Ctrl+Shift+Z')
    expect(pressed('ArrowDown', { shiftKey: true })).toBe('Shift+ArrowDown')
  })
})
