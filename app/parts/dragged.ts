import { ref } from 'vue'
import type { SoundRow } from '~~/contract/library'

const TYPE = 'application/x-emporion-sounds'

/** True while sounds of ours are being dragged. */
export const isDragging = ref(false)

let dragged: Promise<readonly SoundRow[]> = Promise.resolve([])

/** Begins to drag sounds out of a list. Those that are not in the page yet may still be on their way. */
export function beginDrag(event: DragEvent, count: number, rows: Promise<readonly SoundRow[]>): void {
  if (!event.dataTransfer) return
  dragged = rows
  // What goes wrong is told to whoever takes them.
  rows.catch(() => undefined)
  isDragging.value = true
  event.dataTransfer.effectAllowed = 'copy'
  event.dataTransfer.setData(TYPE, String(count))
  window.addEventListener('dragend', () => {
    isDragging.value = false
  }, { once: true })
}

/** True when what is dragged over something are sounds of ours. */
export function carriesSounds(event: DragEvent): boolean {
  return event.dataTransfer?.types.includes(TYPE) ?? false
}

/** The sounds that were let go of. */
export function droppedSounds(event: DragEvent): Promise<readonly SoundRow[]> {
  return carriesSounds(event) ? dragged : Promise.resolve([])
}
