/** Sentences about kits that are written in more than one place. */

export const NO_FREE_NOTE = 'All 128 notes are in use.'

export const NO_SOUND_ON_PAD = 'There is no sound on this pad yet.'

export function notANote(text: string): string {
  return `"${text}" is not a note. Type a number from 0 to 127 or a name such as F#1.`
}

export function presetExists(name: string): string {
  return `There is a preset named "${name}" already.`
}
