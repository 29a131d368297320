import { describe, expect, it } from 'vitest'
import { kitOf, layerOf, planOnly, Sounds, target } from '../../tests/helpers/fit'
import { SHIPPED_TARGETS, shippedTarget } from './shipped'
import { limitsOf, slotLabel, slotsOf, targetSchema, type Target } from './target'
import { overOf, usageOfKit } from './usage'
import { aboutTarget, bytesWords, changesOf, emptyWords, heardAs, outcomeWords, shortfallWords } from './words'

const problemsOf = (change: (target: Target) => unknown) => targetSchema.safeParse(change(target('lembos'))).error?.issues.map(issue => issue.path.join('.')) ?? []

describe('targets as data', () => {
  it('those that ship are whole and told apart', () => {
    expect(new Set(SHIPPED_TARGETS.map(one => one.id)).size).toBe(SHIPPED_TARGETS.length)
    expect(new Set(SHIPPED_TARGETS.map(one => one.name)).size).toBe(SHIPPED_TARGETS.length)
    expect(shippedTarget(' LEMBOS ')?.id).toBe('lembos')
    expect(shippedTarget('nothing')).toBeUndefined()
  })

  it('count as references.md does: 8 banks x 16 pads = 128, 3 x 16 = 48, 3 x 12 = 36', () => {
    expect(['kerkouros', 'lembos', 'akatos'].map(id => slotsOf(target(id)))).toEqual([128, 48, 36])
    expect([0, 11, 12, 35].map(slot => slotLabel(target('akatos'), slot))).toEqual(['A1', 'A12', 'B1', 'C12'])
    expect(limitsOf(target('akatos'))).toMatchObject({ columns: 4, rows: 3, pads: 36, lowNote: 36, highNote: 71, layers: 4 })
  })

  it('that contradict themselves are refused, each with the field', () => {
    expect(problemsOf(one => ({ ...one, notes: { ...one.notes, first: 90 } }))).toEqual(['notes.first', 'notes.last'])
    expect(problemsOf(one => ({ ...one, pads: { ...one.pads, banks: 9 } }))).toEqual(['pads.banks', 'notes.last'])
    expect(problemsOf(one => ({ ...one, audio: { ...one.audio, rates: [48_000] } }))).toEqual(['audio.rates'])
    expect(problemsOf(one => ({ ...one, names: { ...one.names, separator: '/' } }))).toEqual(['names.separator'])
    expect(problemsOf(one => ({ ...one, id: 'Not one' }))).toEqual(['id'])
    expect(problemsOf(one => ({ ...one, surprise: true }))).toEqual([''])
  })
})

describe('meters', () => {
  const sounds = new Sounds()

  it('60 s x 44,100 Hz x 16 bit mono = 5,292,000 bytes (references.md), and what stands beside the audio', () => {
    const minute = sounds.add('minute', [new Float32Array(60 * 44_100).fill(0.1)], 44_100)
    const used = usageOfKit(kitOf([{ layers: [layerOf(minute)] }]), target('lembos'))
    expect(used.seconds).toBe(60)
    expect(used.bytes - 5_292_000).toBeGreaterThanOrEqual(0)
    expect(used.bytes - 5_292_000).toBeLessThanOrEqual(256)
    expect(overOf(used, target('lembos'))).toEqual([{ meter: 'seconds', used: 60, room: 45 }])
  })

  it('describe a target', () => {
    expect(aboutTarget({ ...target('lembos'), limits: { ...target('lembos').limits, bytes: 2_000_000 } })).toBe('A folder of WAVE files with 48 pads; 1 velocity layer each; mono, 16 bit, up to 44.1 kHz; at most 2.0 MB and 45 s of audio.')
    expect(aboutTarget(target('akatos'))).toMatch(/with 36 pads; 4 velocity layers each; .*; samples up to 15 s\.$/)
  })

  it('MB are 10^6 bytes and MiB 2^20', () => {
    expect([bytesWords(80_000_000, 'MB'), bytesWords(134_217_728, 'MiB'), bytesWords(500_000, 'MB')]).toEqual(['80.0 MB', '128.0 MiB', '0.50 MB'])
  })

  it('say what is over by how much, and what becomes of empty pads', () => {
    expect(shortfallWords({ meter: 'seconds', needed: 50, room: 45, pads: [{ padIndex: 0, needed: 30 }, { padIndex: 17, needed: 20 }], releases: [{ padIndex: 17, held: 'stereo' }] }, target('lembos')))
      .toBe('Audio: at least 50.00 s needed, Lembos has 45.00 s (5.00 s too much). Needed by A1 (30.00 s) and B2 (20.00 s). To make it fit, no longer hold both sides of B2.')
    expect(shortfallWords({ meter: 'samples', needed: 6, room: 4, pads: [1, 2, 3, 4, 5, 6].map(padIndex => ({ padIndex, needed: 1 })), releases: [] }, target('lembos')))
      .toBe('Samples: at least 6 needed, Lembos has 4 (2 too much). Needed by A2 (1), A3 (1), A4 (1), A5 (1) and 2 more. To make it fit, use a target with 6, or remove some of these pads.')
    expect(emptyWords(target('lembos'), { pads: 40 })).toBe('8 of 48 pads of Lembos stay empty: what is on them now is erased on sending.')
    expect(emptyWords(target('kerkouros'), { pads: 128 })).toContain('All 128 pads')
  })
})

describe('costs in words', () => {
  const sounds = new Sounds()

  it('name the sound, where it loses something, by how many dB and how that is heard', () => {
    const bright = Float32Array.from({ length: 24_000 }, (_, i) => 0.3 * Math.sin(2 * Math.PI * 900 * i / 48_000) + 0.1 * Math.sin(2 * Math.PI * 13_000 * i / 48_000))
    const kit = kitOf([{ role: 'shaker.maracas', layers: [layerOf(sounds.add('maracas', [bright], 48_000))] }])
    const low: Target = { ...target('lembos'), audio: { ...target('lembos').audio, rates: [24_000], highestRate: 24_000 } }
    const plan = planOnly(kit, sounds, low)
    const [rate] = changesOf(kit, plan.rows[0]!)
    expect(rate!.words).toMatch(/^48 to 24 kHz: above 11 kHz this shaker loses its air: -\d dB, (clearly heard|another sound)\.$/)
  })

  it('sum up a plan without calling anything harmless that is heard', () => {
    const steps = Float32Array.from({ length: 24_000 }, (_, i) => 0.3 * Math.sin(2 * Math.PI * 900 * i / 48_000) + 0.1 * Math.sin(2 * Math.PI * 13_000 * i / 48_000))
    const kit = kitOf([{ chokeGroup: 1, layers: [layerOf(sounds.add('maracas', [steps], 48_000))] }])
    const lembos = target('lembos')
    expect(outcomeWords(kit, planOnly(kit, sounds, { ...lembos, audio: { ...lembos.audio, rates: [24_000], highestRate: 24_000 } }))).toMatch(/^1 sample kept; greatest loss -\d dB, (clearly heard|another sound); 1 setting not supported$/)
    expect(outcomeWords(kit, planOnly(kit, sounds, target('package')))).toBe('1 sample kept')
  })

  it('are graded from what nobody hears to another sound', () => {
    expect([-90, -50, -35, -20, -10, -3].map(heardAs)).toEqual(['not heard', 'hardly heard', 'heard alone', 'heard when looked for', 'clearly heard', 'another sound'])
  })
})
