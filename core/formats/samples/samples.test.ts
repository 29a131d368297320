import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fit, identify, kitOf, layerOf, Sounds, target } from '../../../tests/helpers/fit'
import type { DecodedAudio } from '../../audio/decoded'
import { readWave } from '../../audio/wave/read'
import { FILE_BYTES } from '../../fit/variants'
import { writeForTarget } from '../../fit/write'
import { readMidi } from '../../groove/midi/read'
import { readIndex, writeIndex } from './index'
import { numberingOf, placesOf } from './numbering'
import { sampleNames, type Named, type Naming } from './naming'
import { readSampleSet } from './read'

const sounds = new Sounds()
const named = (slot: number, name: string, settings: Partial<Named> = {}): Named => ({ slot, slots: 36, bank: 'A', pad: slot + 1, layer: 0, layers: 1, note: 36 + slot, kind: 'kick', name, ...settings })
const naming: Naming = { parts: ['number', 'name'], separator: ' ', longest: 40, case: 'as it is', characters: 'letters, digits and signs' }

describe('names of samples', () => {
  it('are put together from parts in their order', () => {
    const all: Naming = { ...naming, parts: ['bank', 'pad', 'layer', 'note', 'note name', 'kind', 'name', 'number'], separator: '_' }
    expect(sampleNames([named(2, 'Kick tief', { layer: 1, layers: 3 })], all, 'C3')).toEqual(['A_03_v2_038_D1_Kick_Kick tief_03'])
  })

  it('that are too long lose their shared start, then their middle, but stay distinct', () => {
    const short: Naming = { ...naming, parts: ['name'], longest: 14 }
    expect(sampleNames(['Night ferry car deck kick soft', 'Night ferry car deck kick hard', 'Night ferry rail'].map((name, i) => named(i, name)), short, 'C3')).toEqual(['car decck soft', 'car decck hard', 'rail'])
    expect(sampleNames([named(0, 'Harbour bell of the outer pier 01'), named(1, 'Harbour bell of the outer pier 02')], short, 'C3')).toEqual(['01', '02'])
  })

  it('that are the same get a number, after a digit with a letter before it', () => {
    const bare: Naming = { ...naming, parts: ['number'], characters: 'letters and digits' }
    expect(sampleNames([named(0, 'a'), { ...named(0, 'b'), layer: 1, layers: 2 }, { ...named(0, 'c'), layer: 2, layers: 3 }], bare, 'C3')).toEqual(['01', '01x2', '01x3'])
  })

  it('of a device with 12 capitals are never longer, never the same, and keep what tells pads apart', () => {
    const { names } = target('akatos')
    fc.assert(fc.property(fc.array(fc.string({ unit: 'grapheme', maxLength: 30 }), { minLength: 1, maxLength: 36 }), (texts) => {
      const made = sampleNames(texts.map((text, i) => named(i, text)), names, 'C3')
      expect(new Set(made.map(name => name.toLowerCase())).size).toBe(made.length)
      made.forEach((name, i) => expect(name).toMatch(new RegExp(`^A${String(i + 1).padStart(2, '0')}[A-Z0-9]{0,9}$`)))
    }))
  })
})

describe('a sample set', () => {
  const kit = kitOf([
    { name: 'Kick', role: 'kick', layers: [layerOf(sounds.hit('soft', 1), { highVelocity: 63 }), layerOf(sounds.hit('hard', 2), { lowVelocity: 64 })] },
    { name: '=SUM(A1)', role: 'snare', layers: [layerOf(sounds.hit('snare', 3))] },
  ])
  const files = writeForTarget(fit(kit, sounds, target('samples')).made, target('samples'))

  it('has files with root notes and names, a list, and a MIDI file that plays every pad once', () => {
    expect(files.map(file => file.path)).toEqual(['001 v1 C1 Kick soft.wav', '001 v2 C1 Kick hard.wav', '002 Cs1 Snare _SUM(A1).wav', 'index.csv', 'every pad once.mid'])
    const { embedded } = readWave(files[1]!.bytes).facts
    expect([embedded.rootNote, embedded.info!.INAM]).toEqual([36, 'Kick'])
    expect(readMidi(files[4]!.bytes).tracks.flatMap(track => track.notes.map(({ note }) => note))).toEqual([36, 37])
  })

  it('has a list that no table takes for formulas, and that is read back as it was', () => {
    const text = new TextDecoder().decode(files[3]!.bytes)
    expect(text).toContain('\'=SUM(A1)')
    const entries = readIndex(text)!
    expect(entries.map(entry => [entry.name, entry.layer, entry.note, entry.lowVelocity, entry.highVelocity])).toEqual([['Kick', 'soft', 36, 1, 63], ['Kick', 'hard', 36, 64, 127], ['=SUM(A1)', 'snare', 37, 1, 127]])
    expect(readIndex(writeIndex(entries, 'C4'))).toEqual(entries)
    expect(readIndex('a,b\n1,2\n')).toBeUndefined()
  })
})

describe.each([[8, 8, 1], [12, 16, 2], [16, 16, 2], [24, 24, 3]] as const)('samples of %i bits', (depth, inFile, bytes) => {
  const wanted = { ...target('samples'), audio: { ...target('samples').audio, depths: [depth] } }
  const { made, plan } = fit(kitOf([{ name: 'Kick', layers: [layerOf(sounds.hit('hard', 2))] }]), sounds, wanted)
  const [wave] = writeForTarget(made, wanted)
  const read = readWave(wave!.bytes)

  it('are stored in as many bytes, and no step is finer', () => {
    expect(read.facts.bitDepth).toBe(inFile)
    expect(plan.rows[0]!.variant!.bytes).toBe(read.frames * bytes + FILE_BYTES)
    const steps = 2 ** (depth - 1)
    expect(read.channels[0]!.every(value => Number.isInteger(value * steps))).toBe(true)
    if (depth > 8) expect(read.channels[0]!.every(value => Number.isInteger(value * steps / 2))).toBe(false)
  })

  it('differ from the sound by the noise of dither, as the plan says (Lipshitz 1992: half a last bit RMS where there is dither)', () => {
    const sound = [...made.samples.values()][0]!.channels[0]!
    const rms = (values: Float32Array) => Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length)
    const noiseDb = 20 * Math.log10(rms(read.channels[0]!.map((value, i) => value - sound[i]!)) / rms(sound))
    if (depth <= 16) expect(Math.abs(noiseDb - plan.rows[0]!.variant!.lostDb.noise)).toBeLessThan(1)
    else expect(noiseDb).toBeLessThan(plan.rows[0]!.variant!.lostDb.noise)
  })
})

describe('a set that is read back by its list', () => {
  it('has its pads, layers, kinds, chokes and the names of both', () => {
    const kit = kitOf([
      { name: 'Kick', role: 'kick', layers: [layerOf(sounds.hit('soft', 1), { highVelocity: 63 }), layerOf(sounds.hit('hard', 2), { lowVelocity: 64 })] },
      { name: 'Hat', role: 'hat.closed', chokeGroup: 3, layers: [layerOf(sounds.hit('tick', 4))] },
    ])
    const files = writeForTarget(fit(kit, sounds, target('samples')).made, target('samples'))
    const waves = files.filter(({ path }) => path.endsWith('.wav')).map(({ path, bytes }) => ({ path, audio: readWave(bytes) }))
    const back = readSampleSet({ name: 'Set', files: waves, index: new TextDecoder().decode(files.find(({ path }) => path === 'index.csv')!.bytes), middleC: 'C3', identify })
    expect(back.kit.pads.filter(pad => pad.layers.length > 0).map(pad => [pad.note, pad.name, pad.role, pad.chokeGroup !== null, pad.layers.map(layer => [layer.sound.name, layer.lowVelocity, layer.highVelocity])])).toEqual([
      [36, 'Kick', 'kick', false, [['soft', 1, 63], ['hard', 64, 127]]],
      [37, 'Hat', 'hat.closed', true, [['tick', 1, 127]]],
    ])
  })
})

describe('a folder of samples', () => {
  const file = (stem: string, rootNote?: number) => ({ stem, rootNote })

  it.each([
    ['bank and pad', ['A01 Kick', 'A02 Snare', 'B1 Hat'], [0, 1, 2]],
    ['note name', ['Kick C1', 'Snare_D1', 'Tom F#1 soft'], [36, 38, 42]],
    ['note number', ['36 Kick', '38 Snare', '42 Hat'], [36, 38, 42]],
    ['number', ['01 Kick', '02 Snare', '10 Hat'], [1, 2, 10]],
    ['order', ['Kick', 'Snare', 'Hat'], [0, 1, 2]],
  ] as const)('is read by %s', (way, stems, places) => {
    const files = stems.map(stem => file(stem))
    expect(numberingOf(files, 'C3')).toBe(way)
    expect(placesOf(files, way, 'C3')).toEqual(places)
  })

  it('is read by the notes that its files state where their names say nothing', () => {
    expect(numberingOf([file('Kick', 36), file('Snare', 38)], 'C3')).toBe('stated note')
  })

  it('becomes a kit: files of one number are layers from soft to loud', () => {
    const audioOf = (name: string, seed: number): { path: string, audio: DecodedAudio } => {
      const channels = sounds.audio.get(sounds.hit(name, seed).id)!.channels
      return { path: `${name}.wav`, audio: { channels, sampleRate: 48_000, frames: channels[0]!.length, facts: { container: 'WAVE', codec: 'PCM', bitDepth: 24, embedded: {}, warnings: [] } } }
    }
    const { kit, numbering } = readSampleSet({ name: 'Set', files: [audioOf('02 Snare', 5), audioOf('01 Kick b', 6), audioOf('01 Kick a', 7)], middleC: 'C3', identify })
    expect(numbering).toBe('number')
    expect(kit.pads.filter(pad => pad.layers.length > 0).map(pad => [pad.note, pad.role, pad.layers.map(layer => [layer.sound.name, layer.lowVelocity])])).toEqual([
      [36, 'kick', [['01 Kick a', 1], ['01 Kick b', 64]]],
      [37, 'snare', [['02 Snare', 1]]],
    ])
  })
})
