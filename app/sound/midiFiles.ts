import { messageOf } from '~~/core/errors'
import type { MidiPattern } from '~~/core/groove/midi/toPattern'
import type { MidiReader } from './midiReader'

/** One of several MIDI files: the pattern that it makes, or why it makes none. */
export type MidiFileRead = { readonly file: string } & ({ readonly made: MidiPattern } | { readonly reason: string })

const MIDI_NAME = /\.midi?$/i

export function patternNameOf({ name }: File): string {
  return name.replace(MIDI_NAME, '')
}

/** Reads several files, one after the other, each by its usual channels and with all its bars. */
export async function* readMidiFiles(files: readonly File[], reader: Pick<MidiReader, 'read'>): AsyncGenerator<MidiFileRead> {
  for (const file of files) {
    try {
      const made = await reader.read(new Uint8Array(await file.arrayBuffer()), { name: patternNameOf(file) })
      yield made.pattern.parts.length === 0 ? { file: file.name, reason: 'It holds no notes.' } : { file: file.name, made }
    }
    catch (thrown) {
      yield { file: file.name, reason: messageOf(thrown) }
    }
  }
}
