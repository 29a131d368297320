import { EventEmitter } from 'node:events'
import type { JobView } from '../jobs/types'

/** What the page is sent without asking. */
export type StudioEvent =
  | { readonly type: 'job', readonly job: JobView }
  /** `isArriving` while a scan goes on: there is more, and it may be seen a moment later. */
  | { readonly type: 'library', readonly isArriving?: boolean }
  | { readonly type: 'vault' }
  | { readonly type: 'tray', readonly trayId: number, readonly from: string }
  | { readonly type: 'trays' }
  | { readonly type: 'searches' }
  | { readonly type: 'kits' }
  | { readonly type: 'patterns' }
  | { readonly type: 'pattern', readonly patternId: string, readonly revision: number, readonly from: string }
  /** `usesOthers` where it has other sounds than before. */
  | { readonly type: 'kit', readonly kitId: string, readonly revision: number, readonly from: string, readonly usesOthers: boolean }

/** Passes events from the functions that change things to every page that listens. */
export class StudioEvents {
  private readonly emitter = new EventEmitter().setMaxListeners(0)
  private libraryRevisionNow = 1
  private arrivalsNow = 1
  private usesRevisionNow = 1

  /** Changes whenever search results may have changed, and whoever asks next is to see it. */
  get libraryRevision(): number {
    return this.libraryRevisionNow
  }

  /** Changes whenever a scan that goes on has brought more. */
  get arrivals(): number {
    return this.arrivalsNow
  }

  /** Changes whenever other sounds may be used in kits and presets. */
  get usesRevision(): number {
    return this.usesRevisionNow
  }

  send(event: StudioEvent): void {
    if (event.type === 'library' && event.isArriving) this.arrivalsNow++
    else if (event.type === 'library') this.libraryRevisionNow++
    if ((event.type === 'kit' && event.usesOthers) || event.type === 'kits' || event.type === 'vault') this.usesRevisionNow++
    this.emitter.emit('event', event)
  }

  listen(listener: (event: StudioEvent) => void): () => void {
    this.emitter.on('event', listener)
    return () => this.emitter.off('event', listener)
  }
}
