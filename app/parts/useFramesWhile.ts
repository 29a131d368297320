import { tryOnScopeDispose } from '@vueuse/core'

/**
 * Shows something anew with each frame for as long as it changes: `show` says whether there is more to come, and is given the
 * milliseconds since the frame before (0 for the first) and the time of this one. Gives what begins that; a page on which nothing
 * moves draws no frames.
 */
export function useFramesWhile(show: (delta: number, timestamp: number) => boolean): () => void {
  let asked: number | undefined
  let before: number | undefined

  function step(timestamp: number): void {
    const isMore = show(before === undefined ? 0 : timestamp - before, timestamp)
    before = isMore ? timestamp : undefined
    asked = isMore ? requestAnimationFrame(step) : undefined
  }

  tryOnScopeDispose(() => {
    if (asked !== undefined) cancelAnimationFrame(asked)
  })
  return () => {
    asked ??= requestAnimationFrame(step)
  }
}
