import { startsWith } from '../audio/bytes'
import { isMpeg } from '../audio/mpeg/read'

/** What a file is, as far as its first bytes tell. */
export type FileSort = 'sf2' | 'dls' | 'midi' | 'zip' | 'audio' | 'text' | 'unknown'

/** So many bytes tell. */
export const HEAD_BYTES = 4096

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
