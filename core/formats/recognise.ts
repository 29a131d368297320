import { startsWith } from '../audio/bytes'
import { isMpeg } from '../audio/mpeg/read'

/** What a file is, as far as its first bytes tell. */
export type FileSort = 'sf2' | 'dls' | 'midi' | 'zip' | 'audio' | 'text' | 'unknown'

/** So many bytes tell. */
export const HEAD_BYTES = 4096

/** A zip's list of names lies at its end, within so many bytes of any but the largest. */
export const TAIL_BYTES = 4_000_000

/**
 * Tells whether a zip archive is a kit package: it holds a bag.
 * Sources: RFC 8493, 2.1.1 (`bagit.txt`); PKWARE APPNOTE, 4.3.12 (names stand in the central directory, at the end).
 *
 * @param tail the last `TAIL_BYTES` of the archive, or all of a shorter one
 */
export function holdsBag(tail: Uint8Array): boolean {
  const name = new TextEncoder().encode('bagit.txt')
  for (let at = tail.indexOf(name[0]!); at >= 0; at = tail.indexOf(name[0]!, at + 1)) if (name.every((wanted, i) => tail[at + i] === wanted)) return true
  return false
}

const RIFF_SORTS: Readonly<Record<string, FileSort>> = { 'sfbk': 'sf2', 'DLS ': 'dls', 'RMID': 'midi', 'WAVE': 'audio' }
const AUDIO_STARTS = ['RF64', 'BW64', 'FORM', 'caff', '.snd', 'fLaC', 'OggS', 'wvpk', 'riff', 'ID3']

/**
 * Tells what a file is by its first bytes, whatever it is called.
 * Sources: SoundFont 2.04, 4 (`sfbk`); DLS 1.1b (`DLS `); Standard MIDI Files 1.0 (`MThd`); PKWARE APPNOTE, 4.3.7 (`PK`).
 *
 * @param head the first `HEAD_BYTES` of the file, or all of a shorter one
 */
export function recognised(head: Uint8Array): FileSort {
  if (startsWith(head, 'RIFF')) return RIFF_SORTS[String.fromCharCode(...head.subarray(8, 12))] ?? 'unknown'
  if (startsWith(head, 'MThd')) return 'midi'
  if (startsWith(head, 'PK\x03\x04') || startsWith(head, 'PK\x05\x06')) return 'zip'
  if (AUDIO_STARTS.some(start => startsWith(head, start)) || isMpeg(head)) return 'audio'
  return head.length > 0 && !head.includes(0) ? 'text' : 'unknown'
}
