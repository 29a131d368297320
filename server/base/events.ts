import { EventEmitter } from 'node:events'
import type { StudioEvent } from '../../contract/events'

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
