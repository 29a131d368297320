import { expect, it } from 'vitest'
import { figuresOf } from '../../core/audio/analysis/figures'
import { tunedPreset } from '../../train/openSets'

/**
 * Notes from outside: tuned percussion of the sound bank TimGM6mb, each note as FluidSynth plays it. The programs are those of
 * General MIDI System Level 1, counted from 0 (from memory): 11 vibraphone, 12 marimba, 13 xylophone.
 */
it.each([['vibraphone', 11], ['marimba', 12], ['xylophone', 13]] as const)('the notes of a %s are found, each within a seventh of a semitone', (_, preset) => {
  const notes = [55, 60, 64, 67, 72, 76, 79, 84]
  const found = tunedPreset(preset, 'tuned', notes).map(({ samples, sampleRate }) => figuresOf([samples], sampleRate).pitch!)
  for (const [i, pitch] of found.entries()) {
    expect(pitch.note).toBe(notes[i])
    expect(Math.abs(pitch.cents)).toBeLessThan(100 / 7)
    expect(pitch.confidence).toBeGreaterThan(0.9)
  }
})
