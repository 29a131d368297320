import { messageOf } from '~~/core/errors'
import { patternFromMidi, type MidiChoice, type MidiPattern } from '~~/core/groove/midi/toPattern'
import { readMidi, type MidiSong } from '~~/core/groove/midi/read'

/** A MIDI file to be read, or another choice of what was read last. */
export interface MidiRequest {
  readonly id: number
  readonly bytes?: Uint8Array
  readonly choice: MidiChoice
}

export type MidiAnswer =
  | { readonly id: number, readonly made: MidiPattern }
  | { readonly id: number, readonly error: string }

let song: MidiSong | undefined

self.addEventListener('message', ({ data: { id, bytes, choice } }: MessageEvent<MidiRequest>) => {
  try {
    if (bytes) song = readMidi(bytes)
    self.postMessage({ id, made: patternFromMidi(song!, choice) } satisfies MidiAnswer)
  }
  catch (thrown) {
    self.postMessage({ id, error: messageOf(thrown) } satisfies MidiAnswer)
  }
})
