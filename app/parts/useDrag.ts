/** What a drag does. */
export interface Drag {
  /** Called at each move, with how far the pointer is from where it was pressed, in pixels. */
  readonly move: (event: PointerEvent, by: { readonly x: number, readonly y: number }) => void
  /** It was let go. */
  readonly end?: (event: PointerEvent) => void
  /** It was broken off, by Escape or by the browser: all is to be as before it began. */
  readonly cancel?: () => void
}

/** Follows a press of the first button until the pointer is let go; Escape, or a gesture of the browser, breaks it off. */
export function startDrag(event: PointerEvent, { move, end, cancel }: Drag): void {
  if (event.button !== 0) return
  const { pointerId, clientX, clientY } = event
  const target = event.currentTarget as HTMLElement
  const over = new AbortController()
  const { signal } = over
  const listen = (type: 'pointermove' | 'pointerup' | 'pointercancel', act: (event: PointerEvent) => void) =>
    target.addEventListener(type, own => own.pointerId === pointerId && act(own), { signal })
  const breakOff = () => {
    over.abort()
    if (target.hasPointerCapture(pointerId)) target.releasePointerCapture(pointerId)
    cancel?.()
  }
  target.setPointerCapture(pointerId)
  listen('pointermove', moved => move(moved, { x: moved.clientX - clientX, y: moved.clientY - clientY }))
  listen('pointerup', (lifted) => {
    over.abort()
    end?.(lifted)
  })
  listen('pointercancel', breakOff)
  // Before anything else that Escape means: it ends the drag alone.
  window.addEventListener('keydown', (key) => {
    if (key.key !== 'Escape') return
    key.preventDefault()
    key.stopImmediatePropagation()
    breakOff()
  }, { signal, capture: true })
}
