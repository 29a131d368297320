import { useEventListener } from '@vueuse/core'
import { backToView } from './useFirstFocus'
import { isTyping } from './useKeys'

const FLOATING = '.el-overlay, .el-popper'

/**
 * Escape leads out of whatever is typed into or chosen from, back to the main part of the view; in a dialog it is the dialog's.
 * What has a use of its own for it prevents its default.
 */
export function useEscape(): void {
  // By themselves selects keep every Escape, those too that close nothing and take nothing back.
  useEventListener(window, 'keydown', (event) => {
    if (event.key !== 'Escape' || !(event.target instanceof HTMLInputElement)) return
    const select = event.target.closest('.el-select')
    if (!select || event.target.ariaExpanded === 'true' || event.target.value !== '') return
    event.stopImmediatePropagation()
    event.preventDefault()
    if (!select.closest(FLOATING)) return backToView()
    select.parentElement?.dispatchEvent(new KeyboardEvent('keydown', { key: event.key, code: event.code, bubbles: true, cancelable: true }))
  }, { capture: true })

  useEventListener(window, 'keydown', (event) => {
    if (event.key !== 'Escape' || event.defaultPrevented || !isTyping(event)) return
    if (event.target instanceof HTMLElement && !event.target.closest(FLOATING)) backToView()
  })
}
