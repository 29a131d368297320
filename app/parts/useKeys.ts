import { useEventListener } from '@vueuse/core'

/** One thing that keys do, as the foot line prints it. */
export interface KeyHint {
  readonly keys: readonly string[]
  readonly does: string
}

/** True while the person types into something, or a dialog or menu has the keyboard. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target
  if (!(target instanceof HTMLElement)) return false
  if (target.closest('.el-overlay, .el-popper, .el-dialog, [role="slider"]')) return true
  if (target.isContentEditable || target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement) return true
  return target instanceof HTMLInputElement && !['checkbox', 'radio', 'button'].includes(target.type)
}

/** True for a key that would press the button or link that has the focus. */
export function isForControl(event: KeyboardEvent): boolean {
  const onControl = event.target instanceof HTMLElement && event.target.closest('button, a, [role="button"], [role="radio"], [role="checkbox"], [role="switch"], label')
  return Boolean(onControl) && (event.key === 'Enter' || event.key === ' ')
}

/**
 * Listens for a view's keys as long as the view is there. The handler returns true for a key that it used.
 * Keys pressed on a button or link stay with it when they would press it.
 */
export function useKeys(handle: (event: KeyboardEvent) => boolean): void {
  useEventListener(window, 'keydown', (event) => {
    if (isTyping(event) || event.defaultPrevented) return
    if (isForControl(event)) return
    if (handle(event)) event.preventDefault()
  })
}
