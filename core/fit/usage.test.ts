import { describe, expect, it } from 'vitest'
import { kitOf, layerOf, Sounds, target } from '../../tests/helpers/fit'
import type { Target } from './target'
import { overOf, roomOf, usageOfKit } from './usage'

const sounds = new Sounds()
const [one, other] = [sounds.hit('one', 1, { seconds: 1, stereo: true }), sounds.hit('other', 2, { seconds: 0.5, sampleRate: 44_100 })]
const [lembos, akatos, kerkouros] = ['lembos', 'akatos', 'kerkouros'].map(target) as [Target, Target, Target]

describe('what a kit takes of a target', () => {
  const kit = kitOf([
    { layers: [layerOf(one, { lowVelocity: 1, highVelocity: 60 }), layerOf(other, { lowVelocity: 61 })] },
    { layers: [layerOf(one)] },
    {},
    { note: 36, layers: [layerOf(other, { startFrame: 4_410, endFrame: 8_820 })] },
  ])

  it('is counted from what the kit knows of its sounds, in the best form that the target takes', () => {
    // Lembos is mono, 16 bit, 44.1 kHz: 1 + 0.5 + 1 + 0.1 seconds, and 256 bytes for each file.
    expect(usageOfKit(kit, lembos)).toEqual({ pads: 3, notes: 2, layers: 2, samples: 4, seconds: 2.6, bytes: 2.6 * 44_100 * 2 + 4 * 256, longestSeconds: 1 })
    // Kerkouros takes two sides, 24 bit, and each rate as it is.
    expect(usageOfKit(kit, kerkouros).bytes).toBe((48_000 * 2 * 2 + 22_050 + 4_410) * 3 + 4 * 256)
  })

  it('counts a sample once where the target shares it', () => {
    const sharing: Target = { ...lembos, audio: { ...lembos.audio, shares: true } }
    expect(usageOfKit(kit, sharing)).toMatchObject({ samples: 3, seconds: 1.6 })
  })

  it('of an empty kit is nothing', () => {
    expect(usageOfKit(kitOf([]), lembos)).toEqual({ pads: 0, notes: 0, layers: 0, samples: 0, seconds: 0, bytes: 0, longestSeconds: 0 })
  })

  it('stands beside the room that there is: 3 x 16 pads, 45 s; 15 s at the longest', () => {
    expect(roomOf(lembos)).toMatchObject({ pads: 48, notes: 48, layers: 1, seconds: 45, bytes: null })
    expect(roomOf(akatos)).toMatchObject({ pads: 36, layers: 4, longestSeconds: 15, seconds: null })
    expect(overOf(usageOfKit(kit, lembos), lembos)).toEqual([{ meter: 'layers', used: 2, room: 1 }])
    expect(overOf({ ...usageOfKit(kit, lembos), seconds: 45, layers: 1 }, lembos)).toEqual([])
    expect(overOf({ ...usageOfKit(kit, lembos), seconds: 45.01, layers: 1 }, lembos)).toEqual([{ meter: 'seconds', used: 45.01, room: 45 }])
  })
})
