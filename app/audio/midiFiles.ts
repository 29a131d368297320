import { messageOf } from '~~/core/errors'
import type { MidiPattern } from '~~/core/groove/midi/toPattern'
import type { MidiReader } from './midiReader'

/** Drums have this channel where a file keeps to General MIDI. */
const PERCUSSION_CHANNEL = 10

/** One of several MIDI files: the pattern that it makes, or why it makes none. */
export type MidiFileRead = { readonly file: string } & ({ readonly made: MidiPattern } | { readonly reason: string })

/** Names of MIDI files. */
export const MIDI_NAME = /\.midi?$/i

export function patternNameOf({ name }: File): string {
  return name.replace(MIDI_NAME, '')
}

/** The channels that a pattern is made of unless others are chosen. */
export function usualChannels(channels: ReadonlyMap<number, number>): number[] {
  return channels.has(PERCUSSION_CHANNEL) ? [PERCUSSION_CHANNEL] : [...channels.keys()]
}

/** Reads several files, one after the other, each by its usual channels and with all its bars. */
export async function* readMidiFiles(files: readonly File[], reader: Pick<MidiReader, 'read' | 'choose'>): AsyncGenerator<MidiFileRead> {
  for (const file of files) {
    const choice = { name: patternNameOf(file) }
    try {
      const all = await reader.read(new Uint8Array(await file.arrayBuffer()), choice)
      const channels = usualChannels(all.channels)
      const made = channels.length === all.channels.size ? all : await reader.choose({ ...choice, channels: new Set(channels) })
      yield made.pattern.parts.length === 0 ? { file: file.name, reason: 'It holds no notes.' } : { file: file.name, made }
    }
    catch (thrown) {
      yield { file: file.name, reason: messageOf(thrown) }
    }
  }
}
