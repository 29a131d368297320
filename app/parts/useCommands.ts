import { useEventListener } from '@vueuse/core'
import { chordOf, type CommandPlace } from './keys/commands'
import { useKeyChoices } from './keys/keys'
import { isForControl, isTyping } from './useKeys'

/** What a view does at each of its commands. Gives false where it did not use the key after all. */
export type CommandHandlers = Readonly<Record<string, (event: KeyboardEvent) => unknown>>

/** Listens for the keys of a place as long as the view is there. */
export function useCommands(place: CommandPlace, handlers: CommandHandlers): void {
  const choices = useKeyChoices()
  useEventListener(window, 'keydown', (event) => {
    if (isTyping(event) || event.defaultPrevented || isForControl(event)) return
    if (handleCommand(event, place, handlers, choices)) event.preventDefault()
  })
}

/** Does what a key calls in a place; true when it called something. */
export function handleCommand(event: KeyboardEvent, place: CommandPlace, handlers: CommandHandlers, choices = useKeyChoices()): boolean {
  const id = choices.commandAt(place, chordOf(event))
  const handler = id === undefined ? undefined : handlers[id]
  return handler !== undefined && handler(event) !== false
}
