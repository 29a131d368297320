/** Waits for the end of a press: the pointer is lifted, or its press became a drag or a gesture of the browser. */
export function onceReleased(act: (event: PointerEvent) => void): void {
  const end = new AbortController()
  for (const type of ['pointerup', 'pointercancel'] as const) {
    window.addEventListener(type, (event) => {
      end.abort()
      act(event)
    }, { signal: end.signal })
  }
}
