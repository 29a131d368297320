import { shallowRef } from 'vue'
import type { SoundRow } from '~~/server/library/search'

const TYPE = 'application/x-emporion-sounds'

/** The sounds being dragged, while they are. */
export const draggedSounds = shallowRef<readonly SoundRow[]>([])

/** Begins to drag sounds out of a list. */
export function beginDrag(event: DragEvent, rows: readonly SoundRow[]): void {
  if (!event.dataTransfer) return
  draggedSounds.value = rows
  event.dataTransfer.effectAllowed = 'copy'
  event.dataTransfer.setData(TYPE, String(rows.length))
  event.dataTransfer.setData('text/plain', rows.map(row => row.name).join('\n'))
  window.addEventListener('dragend', () => {
    draggedSounds.value = []
  }, { once: true })
}

/** True when what is dragged over something are sounds of ours. */
export function carriesSounds(event: DragEvent): boolean {
  return event.dataTransfer?.types.includes(TYPE) ?? false
}

/** The sounds that were let go of. */
export function droppedSounds(event: DragEvent): readonly SoundRow[] {
  return carriesSounds(event) ? draggedSounds.value : []
}
