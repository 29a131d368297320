import { useLibrary } from './library'

type Act = (event: KeyboardEvent) => unknown

/**
 * Lets what acts on the list wait for the list that was asked for, since keys may be faster than its answer. What waits is
 * done in the order in which it was asked for.
 */
export function useAfterResult(): (act: Act) => Act {
  const library = useLibrary()
  let last: Promise<unknown> | undefined

  async function found(): Promise<void> {
    while (library.isBusy) await library.settled()
  }

  return act => (event) => {
    if (!last && !library.isBusy) return act(event)
    const own = (last ?? Promise.resolve()).then(found, found).then(() => {
      if (last === own) last = undefined
      act(event)
    })
    last = own
  }
}
