import { useLibrary } from './library'
import { usePlayer } from '../sound'
import { say } from '../parts/useSay'

/** Neighbours of the cursor that are decoded ahead. */
const AHEAD = 3
/** Sounds that can't be played are passed over, but not without end. */
const MOST_PASSED = 20

/** Goes through the list of sounds, and plays what it comes to. */
export function useSoundCursor(): {
  goTo: (index: number, pressedAt: number, extend?: boolean, step?: number) => Promise<void>
  move: (step: number, extend?: boolean) => (event: KeyboardEvent) => void
  toResult: (pressedAt: number) => Promise<void>
} {
  const library = useLibrary()
  const player = usePlayer()

  /** Takes the cursor to a row and plays it. A sound that can't be played is passed over in the direction of a step; 0 stays on it. */
  async function goTo(index: number, pressedAt: number, extend = false, step = Math.sign(index - library.cursor)): Promise<void> {
    library.moveTo(index, extend)
    for (let passed = 0; passed < MOST_PASSED; passed++) {
      const at = library.cursor
      const row = library.atCursor ?? await library.fetchRow(at)
      if (library.cursor !== at) return
      const playing = row && player.playRow(row, passed === 0 ? pressedAt : undefined)
      // After it was asked for: what is wanted now must not be dropped as a neighbour that is wanted no longer.
      prepare()
      if (!row || await playing || library.cursor !== at || extend || step === 0) return
      say(`"${row.name}" can't be played and was passed over: its file is gone or broken.`)
      library.moveTo(at + step)
      if (library.cursor === at) return
    }
  }

  function prepare(): void {
    const ahead = Array.from({ length: AHEAD * 2 }, (_, i) => library.cursor + (i < AHEAD ? i + 1 : AHEAD - i - 1))
    player.prepare(ahead.flatMap(place => library.rows.get(place) ?? []))
  }

  const move = (step: number, extend = false) => (event: KeyboardEvent) => void goTo(extend ? library.cursor + step : library.after(step), event.timeStamp, extend, Math.sign(step))

  /** Plays the first of what was typed for, even when the key is faster than the answer. */
  async function toResult(pressedAt: number): Promise<void> {
    await library.settled()
    await goTo(library.cursor, pressedAt, false, 1)
  }

  return { goTo, move, toResult }
}
