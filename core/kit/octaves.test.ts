import { describe, expect, it } from 'vitest'
import { emptyKit, type Kit } from './document'
import { placeSounds } from './edits'
import { octavesOff, shiftedNote } from './octaves'

const sound = { sound: { id: 'a'.repeat(64), name: 'Kick', frames: 100, sampleRate: 44_100, channels: 1 }, kind: 'kick' }
/** Its only sound lies on note 40. */
const kit: Kit = placeSounds(emptyKit('Quay'), 4, [sound]).kit

describe('a keyboard that lies in another octave', () => {
  it('is shifted by whole octaves, within the notes of MIDI', () => {
    expect([shiftedNote(36, 1), shiftedNote(36, -3), shiftedNote(36, -4), shiftedNote(120, 1)]).toEqual([48, 0, undefined, undefined])
  })

  it('has a shift for notes that no pad plays, none for those that one plays or that no octave reaches', () => {
    expect(octavesOff(kit, 40)).toBeUndefined()
    expect(octavesOff(kit, 28)).toBe(1)
    expect(octavesOff(kit, 64)).toBe(-2)
    expect(octavesOff(kit, 41)).toBeUndefined()
  })
})
