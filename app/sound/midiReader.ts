import { EmporionError } from '~~/core/errors'
import type { MidiChoice, MidiPattern } from '~~/core/groove/midi/toPattern'
import type { MidiAnswer, MidiRequest } from './midi.worker'

/** Reads one MIDI file off the page's thread, and makes patterns of it by other choices. */
export class MidiReader {
  private readonly worker = new Worker(new URL('./midi.worker.ts', import.meta.url), { type: 'module' })
  private nextId = 1

  /** @throws EmporionError `unreadable` when it is no MIDI file */
  read(bytes: Uint8Array, choice: MidiChoice): Promise<MidiPattern> {
    return this.ask({ id: this.nextId++, bytes, choice })
  }

  /** The same file by another choice. */
  choose(choice: MidiChoice): Promise<MidiPattern> {
    return this.ask({ id: this.nextId++, choice })
  }

  close(): void {
    this.worker.terminate()
  }

  private ask(request: MidiRequest): Promise<MidiPattern> {
    return new Promise((resolve, reject) => {
      const hear = ({ data }: MessageEvent<MidiAnswer>) => {
        if (data.id !== request.id) return
        this.worker.removeEventListener('message', hear)
        if ('made' in data) resolve(data.made)
        else reject(new EmporionError('unreadable', data.error))
      }
      this.worker.addEventListener('message', hear)
      this.worker.postMessage(request)
    })
  }
}
