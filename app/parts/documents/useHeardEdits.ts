import { refThrottled } from '@vueuse/core'
import { ref, watch, type Ref } from 'vue'

/** The last edit of a document and the one that can be done again, as its undo and redo name them. */
export interface EditLabels {
  readonly canUndo?: string
  readonly canRedo?: string
}

/** For screen readers, a sentence a second at most: what was edited, undone or done again last. Nothing before the first edit here. */
export function useHeardEdits(labels: () => EditLabels): Readonly<Ref<string>> {
  const heard = ref('')
  watch(() => ({ undo: labels().canUndo, redo: labels().canRedo }), (now, before) => {
    if (now.undo === before.undo && now.redo === before.redo) return
    if (before.undo !== undefined && now.redo === before.undo) heard.value = `Undone: ${before.undo}`
    else if (before.redo !== undefined && now.undo === before.redo) heard.value = `Redone: ${before.redo}`
    else if (now.undo !== undefined) heard.value = now.undo
  })
  return refThrottled(heard, 1000)
}
