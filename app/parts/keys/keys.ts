import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { capitalised } from '~~/core/wording'
import { chordLabel, clashes, COMMANDS, type Command, type CommandPlace } from './commands'
import type { CommandHandlers } from '../useCommands'
import type { KeyHint } from '../useKeys'
import type { MenuItem } from '../menu'

/** Which keys call what: as they came, or as this person chose. */
export const useKeyChoices = defineStore('keys', () => {
  const chosen = useLocalStorage<Record<string, string>>('emporion-keys', {})
  const keysOf = (command: Command): readonly string[] => chosen.value[command.id] === undefined ? command.keys : [chosen.value[command.id]!]

  const byChord = computed(() => new Map(COMMANDS.flatMap(command => keysOf(command).map(key => [`${command.place} ${key}`, command.id] as const))))

  /** The command that a key calls in a place; undefined where it calls none. */
  function commandAt(place: CommandPlace, chord: string): string | undefined {
    return byChord.value.get(`${place} ${chord}`)
  }

  /** Gives a command another key. Gives the command that has it already, and changes nothing then. */
  function choose(command: Command, chord: string): Command | undefined {
    const pair = clashes(candidate => candidate.id === command.id ? [chord] : keysOf(candidate)).find(([one, other]) => one.id === command.id || other.id === command.id)
    if (pair) return pair.find(candidate => candidate.id !== command.id)
    chosen.value = { ...chosen.value, [command.id]: chord }
    return undefined
  }

  function reset(command?: Command): void {
    if (!command) chosen.value = {}
    else chosen.value = Object.fromEntries(Object.entries(chosen.value).filter(([id]) => id !== command.id))
  }

  const isChanged = (command: Command) => chosen.value[command.id] !== undefined

  /** What the foot line shows of some commands, by their ids; `words` replaces what a command is called. */
  function hints(ids: readonly string[], words: Readonly<Record<string, string>> = {}): KeyHint[] {
    return ids.flatMap(id => COMMANDS.find(command => command.id === id) ?? []).map(command => ({ keys: [chordLabel(keysOf(command)[0]!)], does: words[command.id] ?? command.does }))
  }

  /** The key that calls a command, as it is printed; undefined for one that is not there. */
  function labelOf(id: string): string | undefined {
    const command = COMMANDS.find(candidate => candidate.id === id)
    return command && chordLabel(keysOf(command)[0]!)
  }

  /** Menu entries for some commands, by their ids, with what does them; `words` replaces what a command is called. */
  function items(ids: readonly string[], handlers: CommandHandlers, words: Readonly<Record<string, string>> = {}): MenuItem[] {
    return ids.flatMap(id => COMMANDS.find(command => command.id === id) ?? []).map(command => ({
      does: capitalised(words[command.id] ?? command.does), key: chordLabel(keysOf(command)[0]!), act: () => handlers[command.id]?.(new KeyboardEvent('keydown')),
    }))
  }

  return { items, labelOf, keysOf, commandAt, choose, reset, isChanged, hints }
})
