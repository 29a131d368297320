/** Which octave number middle C (note 60) carries: makers differ. */
export type MiddleC = 'C3' | 'C4'

const NAMES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B']

/** The name of a MIDI note, 0 to 127: 60 is `C3` or `C4`, as the convention says. */
export function noteName(note: number, middleC: MiddleC): string {
  const octave = Math.floor(note / 12) - (middleC === 'C3' ? 2 : 1)
  return `${NAMES[note % 12]}${octave}`
}

/** Number and name together, the way a note is always shown: `36 · C1`. */
export function noteLabel(note: number, middleC: MiddleC): string {
  return `${note} · ${noteName(note, middleC)}`
}

/** Reads a note from a number or a name in the given convention; undefined when it is neither or out of 0 to 127. */
export function parseNote(text: string, middleC: MiddleC): number | undefined {
  const trimmed = text.trim()
  if (/^\d{1,3}$/.test(trimmed)) return inRange(Number(trimmed))
  const match = /^([A-G])([#♯b♭]?)(-?\d)$/i.exec(trimmed)
  if (!match) return undefined
  const accidental = match[2] === '' ? 0 : /[#♯]/.test(match[2]!) ? 1 : -1
  const octave = Number(match[3]) + (middleC === 'C3' ? 2 : 1)
  return inRange(NAMES.indexOf(match[1]!.toUpperCase()) + accidental + octave * 12)
}

/** Frequency in Hz: 440 x 2^((n - 69) / 12). Sources: ISO 16:1975 (A = 440 Hz), MIDI 1.0. */
export function noteFrequencyHz(note: number): number {
  return 440 * 2 ** ((note - 69) / 12)
}

/** A frequency above 0 Hz as a note number with a fraction. Source: MIDI 1.0, with note 69 at 440 Hz. */
export function noteOfHz(hz: number): number {
  return 69 + 12 * Math.log2(hz / 440)
}

/** A note number with a fraction as the nearest note and what it is off by, in cents: `C1 +12`. */
export function noteWithCents(note: number, middleC: MiddleC): string {
  const nearest = Math.round(note)
  const cents = Math.round((note - nearest) * 100)
  const name = noteName(Math.max(0, Math.min(127, nearest)), middleC)
  return cents === 0 ? name : `${name} ${cents > 0 ? '+' : '−'}${Math.abs(cents)}`
}

function inRange(note: number): number | undefined {
  return note >= 0 && note <= 127 ? note : undefined
}
