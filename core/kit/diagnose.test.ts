import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { testSound } from '../../tests/helpers/kit'
import { shippedTarget } from '../fit/shipped'
import { limitsOf } from '../fit/target'
import { diagnose, type Cause } from './diagnose'
import { emptyKit, kitSchema, type Kit } from './document'
import { placeSounds, setLayer, setPads, type PadSettings } from './edits'
import { addLayer, splitEvenly, stackLayers } from './layerEdits'
import { noteOn } from './voices'

const base = placeSounds(emptyKit('K'), 0, [testSound(1), testSound(2), testSound(3)]).kit
const known = { missing: new Set<string>() }
const causes = (kit: Kit) => diagnose(kit, known).map(finding => `${finding.padIndex} ${finding.cause}`)
const withPad = (settings: PadSettings) => setPads(base, [1], settings)
const layered = (count: number) => Array.from({ length: count - 1 }, (_, i) => testSound(10 + i).sound).reduce((kit, sound) => addLayer(kit, 1, sound), base)

/** A kit with something wrong, and what is found of it. */
const WRONG: readonly [Cause, Kit][] = [
  ['muted', withPad({ muted: true })],
  ['gain at zero', withPad({ gainDb: -96 })],
  ['velocity gap', setLayer(splitEvenly(layered(2), 1), 1, 0, { highVelocity: 40 })],
  ['velocity doubled', setLayer(splitEvenly(layered(2), 1), 1, 0, { highVelocity: 90 })],
  ['trimmed to nothing', setLayer(base, 1, 0, { startFrame: 10, endFrame: 20 })],
  ['choked by itself', withPad({ chokeGroup: 4 })],
  ['note taken twice', withPad({ note: 36 })],
  ['stolen by polyphony', setPads(stackLayers(layered(4), 1), [1], { polyphony: 2 })],
]

describe('what is wrong with a pad', () => {
  it('nothing, of a kit that plays', () => {
    expect(diagnose(base, known)).toEqual([])
  })

  it.each(WRONG)('%s is found on its pad alone, and its mend mends it', (cause, kit) => {
    const found = diagnose(kit, known)
    expect(found.map(finding => [finding.padIndex, finding.cause])).toEqual([[1, cause]])
    const mended = found[0]!.mend!.edit(kit)
    kitSchema.parse(mended)
    expect(diagnose(mended, known)).toEqual([])
  })

  it('another pad is soloed: all the others are silent, and one mend ends it', () => {
    const kit = setPads(base, [2], { soloed: true })
    expect(causes(kit)).toEqual(['2 not soloed'])
    expect(diagnose(kit, { missing: new Set() })[0]!.what).toBe('A3 is soloed, so 2 other pads are silent.')
    expect(diagnose(diagnose(kit, known)[0]!.mend!.edit(kit), known)).toEqual([])
  })

  it('a missing sample is named, with what to do; no edit can mend it', () => {
    const [finding] = diagnose(base, { missing: new Set([testSound(2).sound.id]) })
    expect(finding).toMatchObject({ padIndex: 1, cause: 'missing sample', what: 'The file of "Sound 2" on A2 cannot be found. Bring its folder in again, or put another sound on the pad.' })
    expect(finding!.mend).toBeUndefined()
  })

  it('a note that the target does not play (General MIDI System Level 1: percussion keys 35 to 81)', () => {
    const kit = withPad({ note: 90 })
    const limits = limitsOf(shippedTarget('gm-percussion')!)
    const [finding] = diagnose(kit, { ...known, limits })
    expect(finding).toMatchObject({ padIndex: 1, cause: 'beyond the target' })
    expect(diagnose(finding!.mend!.edit(kit), { ...known, limits })).toEqual([])
  })

  it('more layers than the target has', () => {
    expect(diagnose(splitEvenly(layered(3), 1), { ...known, limits: limitsOf(shippedTarget('one-layer')!) }).map(finding => finding.cause)).toEqual(['beyond the target'])
  })
})

describe('any kit', () => {
  const settings = fc.record<PadSettings>({
    muted: fc.boolean(), soloed: fc.boolean(), gainDb: fc.constantFrom(0, -96), chokeGroup: fc.constantFrom(null, 1, 2), note: fc.integer({ min: 36, max: 39 }), polyphony: fc.constantFrom(null, 1),
  })

  it('when all that can be mended is, every pad with a sound plays at every velocity', () => {
    fc.assert(fc.property(fc.array(settings, { minLength: 3, maxLength: 3 }), fc.array(fc.tuple(fc.integer({ min: 1, max: 127 }), fc.integer({ min: 1, max: 127 })), { minLength: 3, maxLength: 3 }), (pads, velocities) => {
      let kit = pads.reduce((now, pad, i) => setPads(now, [i], pad), base)
      kit = velocities.reduce((now, [a, b], i) => setLayer(now, i, 0, { lowVelocity: Math.min(a, b), highVelocity: Math.max(a, b) }), kit)
      for (let round = 0; round < 40; round++) {
        const mend = diagnose(kit, known).find(finding => finding.mend)?.mend
        if (!mend) break
        kit = mend.edit(kit)
      }
      expect(diagnose(kit, known)).toEqual([])
      kitSchema.parse(kit)
      for (const index of [0, 1, 2]) {
        for (const velocity of [1, 64, 127]) expect(noteOn(kit, [], kit.pads[index]!.note, velocity).starts.map(start => start.padIndex)).toContain(index)
      }
    }), { numRuns: 60 })
  })
})
