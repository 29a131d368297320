import type { Container } from './decoded'

/** Endings of the files that a scan opens. What a file really is, is told by its bytes. */
export const AUDIO_EXTENSIONS: readonly string[] = ['wav', 'wave', 'w64', 'aif', 'aiff', 'aifc', 'caf', 'au', 'flac', 'wv', 'm4a', 'mp3', 'ogg', 'oga', 'opus']

/** What the names of such files look like. */
export const AUDIO_NAME = new RegExp(`\\.(${AUDIO_EXTENSIONS.join('|')})$`, 'i')

const ENDINGS: Readonly<Record<Container, string>> = { 'WAVE': 'wav', 'Wave64': 'w64', 'AIFF': 'aif', 'CAF': 'caf', 'AU': 'au', 'FLAC': 'flac', 'Ogg': 'ogg', 'MP3': 'mp3', 'MPEG': 'mp2', 'WavPack': 'wv' }

/** What the name of a file of a container ends with, without the dot; empty for one that is not known. */
export function endingOf(container: string): string {
  return ENDINGS[container as Container] ?? ''
}
