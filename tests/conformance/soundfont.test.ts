import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { GeneratorType, SoundFont2 } from 'soundfont2'
import { describe, expect, it } from 'vitest'
import { writeForTarget } from '../../core/fit/write'
import { openBank } from '../../core/formats/sf2/bank'
import { readPreset } from '../../core/formats/sf2/read'
import { writeSf2 } from '../../core/formats/sf2/write'
import { memorySource } from '../../core/formats/riff'
import { PLAIN_ENVELOPE, type Kit } from '../../core/kit/document'
import { renderKit } from '../../core/render/offline'
import { prepareSound } from '../../core/render/prepare'
import { fit, identify, kitOf, layerOf, Sounds, target } from '../helpers/fit'
import { FLUID_RATE, fluidRender, type FluidNote } from '../helpers/fluid'

/** The open bank of Debian's package timgm6mb-soundfont. */
const OPEN_BANK = '/usr/share/sounds/sf2/TimGM6mb.sf2'

const sounds = new Sounds()
const every: Kit = kitOf([
  { name: 'Plain', layers: [layerOf(sounds.hit('plain', 1, { seconds: 0.5 }))] },
  { name: 'Stereo', layers: [layerOf(sounds.hit('stereo', 2, { seconds: 0.5, stereo: true }))] },
  { name: 'Panned', pan: -0.5, layers: [layerOf(sounds.hit('panned', 3, { seconds: 0.5 }))] },
  { name: 'Quiet', layers: [layerOf(sounds.hit('quiet', 4, { seconds: 0.5 }), { gainDb: -6 })] },
  { name: 'Tuned', layers: [layerOf(sounds.hit('tuned', 5, { seconds: 0.5 }), { tuneCents: -250 })] },
  { name: 'Falling', envelope: { attackSeconds: 0.01, holdSeconds: 0.05, decaySeconds: 0.3, releaseSeconds: 0.1 }, layers: [layerOf(sounds.hit('falling', 6, { seconds: 0.8 }))] },
  { name: 'Dark', filter: { type: 'low-pass', cutoffHz: 900, resonanceDb: 0 }, layers: [layerOf(sounds.hit('dark', 7, { seconds: 0.5 }))] },
  { name: 'Peaked', filter: { type: 'low-pass', cutoffHz: 900, resonanceDb: 9 }, layers: [layerOf(sounds.hit('peaked', 8, { seconds: 0.5, level: 0.3 }))] },
  { name: 'Thin', driveDb: 12, filter: { type: 'high-pass', cutoffHz: 900, resonanceDb: 0 }, layers: [layerOf(sounds.hit('thin', 9, { seconds: 0.5 }))] },
  { name: 'Gated', play: 'gated', envelope: { ...PLAIN_ENVELOPE, releaseSeconds: 0.2 }, layers: [layerOf(sounds.hit('gated', 10, { seconds: 0.8 }))] },
  { name: 'Other rate', layers: [layerOf(sounds.hit('other rate', 11, { seconds: 0.5, sampleRate: 44_100 }))] },
  { name: 'Layers', layers: [layerOf(sounds.hit('soft', 12), { highVelocity: 63 }), layerOf(sounds.hit('hard', 13), { lowVelocity: 64 })] },
])
const made = fit(every, sounds, target('sf2'))
const bank = writeForTarget(made.made, target('sf2'))[0]!.bytes

const VELOCITIES = [127, 60]
const notesOf = (kit: Kit, gap: number): FluidNote[] => kit.pads.filter(pad => pad.layers.length > 0).flatMap((pad, i) => VELOCITIES.map((velocity, v) => ({ atSeconds: 0.5 + (i * VELOCITIES.length + v) * gap, note: pad.note, velocity, lengthSeconds: 0.25 })))

type Rendered = { readonly left: Float32Array, readonly right: Float32Array }
const hitOf = ({ left, right }: Rendered, { atSeconds }: FluidNote, gap: number): Float32Array[] => [left, right].map(side => side.subarray(Math.round((atSeconds - 0.1) * FLUID_RATE), Math.round((atSeconds - 0.1 + gap) * FLUID_RATE)))
const levelDb = (channels: readonly Float32Array[]) => 10 * Math.log10(channels.reduce((sum, channel) => sum + channel.reduce((power, value) => power + value * value, 0), 1e-30))

function onsetOf(channels: readonly Float32Array[]): number {
  const louder = channels.reduce((best, channel) => levelDb([channel]) > levelDb([best]) ? channel : best)
  const peak = louder.reduce((high, value) => Math.max(high, Math.abs(value)), 0)
  return louder.findIndex(value => Math.abs(value) > peak * 0.05)
}

/** Levels of ten bands, an octave each, by summing the spectrum of a plain DFT of the first 4096 frames from the onset on. */
function bandsOf(channels: readonly Float32Array[]): number[] {
  const start = Math.max(0, onsetOf(channels) - 64)
  const mono = Float64Array.from({ length: 4096 }, (_, i) => channels.reduce((sum, channel) => sum + (channel[start + i] ?? 0), 0) * (0.5 - 0.5 * Math.cos(2 * Math.PI * i / 4096)))
  return [60, 120, 240, 480, 960, 1920, 3840, 7680].map((low) => {
    let sum = 0
    for (let k = 0; k < 12; k++) {
      const w = 2 * Math.PI * low * 2 ** (k / 12) / FLUID_RATE
      let [re, im] = [0, 0]
      for (let i = 0; i < mono.length; i++) {
        re += mono[i]! * Math.cos(w * i)
        im += mono[i]! * Math.sin(w * i)
      }
      sum += re * re + im * im
    }
    return 10 * Math.log10(sum + 1e-30)
  })
}

describe('what we write, rendered by FluidSynth (reference library), against our renderer', () => {
  const gap = 1.5
  const notes = notesOf(every, gap)
  const theirs = fluidRender(bank, notes)
  const prepared = new Map([...sounds.audio].map(([id, audio]) => [id, prepareSound(audio, FLUID_RATE)]))
  const ours = renderKit(every, prepared, notes, { sampleRate: FLUID_RATE, longestSeconds: 60 })
  const [first] = notes
  // One master gain and one delay for all: its pan law, its blocks of 64 frames.
  const masterDb = levelDb(hitOf(theirs, first!, gap)) - levelDb(hitOf(ours, first!, gap))
  const delay = onsetOf(hitOf(theirs, first!, gap)) - onsetOf(hitOf(ours, first!, gap))

  it.each(notes.map(note => [every.pads.find(pad => pad.note === note.note)!.name, note.velocity, note] as const))('%s at velocity %i: level within 0.5 dB, onset within 1 ms, spectra alike', (_name, _velocity, note) => {
    const [a, b] = [hitOf(theirs, note, gap), hitOf(ours, note, gap)]
    expect(Math.abs(levelDb(a) - levelDb(b) - masterDb)).toBeLessThan(0.5 + 0.001)
    expect(Math.abs(onsetOf(a) - onsetOf(b) - delay)).toBeLessThan(FLUID_RATE / 1000)
    const [bandsA, bandsB] = [bandsOf(a), bandsOf(b)]
    const loudest = Math.max(...bandsB)
    bandsA.forEach((band, i) => {
      if (bandsB[i]! > loudest - 35) expect(Math.abs(band - bandsB[i]! - masterDb)).toBeLessThan(1.5)
    })
  })
})

describe('what we write, read by the library soundfont2 (reference library)', () => {
  const read = SoundFont2.from(bank)

  it('is one preset of the percussion bank with an instrument for each pad', () => {
    expect(read.metaData.version).toBe('2.4')
    expect(read.presets.map(preset => [preset.header.name, preset.header.bank, preset.header.preset])).toEqual([['Test kit', 128, 0]])
    const [preset] = read.presets
    expect(preset!.zones.map(zone => zone.instrument.header.name)).toEqual(every.pads.filter(pad => pad.layers.length > 0).map(pad => pad.name))
    expect(preset!.zones.map(zone => [zone.keyRange!.lo, zone.keyRange!.hi])).toEqual(every.pads.filter(pad => pad.layers.length > 0).map(pad => [pad.note, pad.note]))
  })

  it('has layers over their velocities, and stereo as two linked samples hard to both sides', () => {
    const zonesOf = (name: string) => read.instruments.find(instrument => instrument.header.name === name)!.zones
    expect(zonesOf('Layers').map(zone => [zone.generators[GeneratorType.VelRange]?.range?.lo, zone.generators[GeneratorType.VelRange]?.range?.hi])).toEqual([[0, 63], [64, 127]])
    const stereo = zonesOf('Stereo')
    expect(stereo.map(zone => [zone.sample.header.type, zone.generators[GeneratorType.Pan]?.value])).toEqual([[4, -500], [2, 500]])
    const places = stereo.map(zone => read.samples.indexOf(zone.sample))
    expect(stereo.map(zone => zone.sample.header.link)).toEqual([places[1], places[0]])
  })

  it('has 46 zero samples after each sample (SoundFont 2.04, 6.1), and 24 bits', () => {
    const smpl = Buffer.from(bank).indexOf('smpl') + 8
    const view = new DataView(bank.buffer, bank.byteOffset)
    for (const { header } of read.samples) {
      for (let i = 0; i < 46; i++) expect(view.getInt16(smpl + (header.end + i) * 2, true)).toBe(0)
      expect(header.end - header.start).toBeGreaterThan(0)
    }
    expect(read.sampleData.length).toBeGreaterThan(0)
    expect(Buffer.from(bank).includes('sm24')).toBe(true)
  })
})

describe('the open bank timgm6mb-soundfont', () => {
  const bytes = new Uint8Array(readFileSync(OPEN_BANK))

  it('has the same presets, zones, generators and samples for us and for the library soundfont2', async () => {
    const ours = await openBank(memorySource(bytes))
    const theirs = SoundFont2.from(bytes)
    expect(ours.presets.map(preset => `${preset.bank}:${preset.program} ${preset.name}`).sort()).toEqual(theirs.presets.map(({ header }) => `${header.bank}:${header.preset} ${header.name}`).sort())
    expect(ours.samples.map(({ name, start, end, sampleRate, originalPitch, link, type }) => [name, start, end, sampleRate, originalPitch, link, type]))
      .toEqual(theirs.samples.map(({ header }) => [header.name, header.start, header.end, header.sampleRate, header.originalPitch, header.link, header.type]))
    // Percussion: each instrument zone with its keys, sample, attenuation and exclusive class as the library has them.
    const preset = ours.presets.find(one => one.bank === 128 && one.program === 0)!
    const reference = theirs.presets.find(({ header }) => header.bank === 128 && header.preset === 0)!
    const wanted = reference.zones.flatMap(zone => zone.instrument.zones.filter(own => own.sample).map((own) => {
      const add = (id: GeneratorType) => (own.generators[id]?.value ?? 0) + (zone.generators[id]?.value ?? 0)
      return [own.sample.header.name, own.keyRange?.lo, own.keyRange?.hi, add(GeneratorType.InitialAttenuation), add(GeneratorType.Pan), own.generators[GeneratorType.ExclusiveClass]?.value ?? 0]
    }))
    expect(ours.zonesOf(preset).map(zone => [ours.samples[zone.sample]!.name, zone.keys.low, zone.keys.high, zone.value(48), zone.value(17), zone.value(57)])).toEqual(wanted)
  })

  it('keeps its percussion on the way through a kit: FluidSynth renders our bank as it renders the original', async () => {
    const read = await readPreset(await openBank(memorySource(bytes)), 0, identify)
    const own = new Sounds()
    for (const [id, audio] of read.audio) own.audio.set(id, audio)
    const { made: again } = fit(read.kit, own, target('sf2'))
    const written = writeSf2([again], 'Again')
    const notes = read.kit.pads.filter(pad => pad.layers.length > 0).map((pad, i) => ({ atSeconds: 0.5 + i * 2, note: pad.note, velocity: 100, lengthSeconds: 0.5 }))
    const [before, after] = [fluidRender(OPEN_BANK, notes), fluidRender(written, notes)]
    // What moves during the hit stays where it begins, and is reported.
    const moving = new Set(read.notCarried.filter(({ where }) => where === 'Modulation envelope').flatMap(({ of }) => of ?? []))
    const still = notes.filter(({ note }) => !read.kit.pads.find(pad => pad.note === note)!.layers.some(layer => moving.has(layer.sound.name)))
    expect(still.length).toBeGreaterThan(40)
    for (const note of still) expect(Math.abs(levelDb(hitOf(after, note, 1.9)) - levelDb(hitOf(before, note, 1.9)))).toBeLessThan(0.5)
  })
})

describe('structure, by the dump tools of gigtools (outside reference)', () => {
  const dump = (program: string, name: string, content: Uint8Array): string => {
    const folder = mkdtempSync(join(tmpdir(), 'emporion-dump-'))
    try {
      const path = join(folder, name)
      writeFileSync(path, content)
      return execFileSync(program, [path], { encoding: 'utf8' })
    }
    finally {
      rmSync(folder, { recursive: true, force: true })
    }
  }

  it('SoundFont: every preset, instrument and sample is found', () => {
    const text = dump('sf2dump', 'bank.sf2', bank)
    expect(text).toContain('Test kit')
    for (const pad of every.pads.filter(one => one.layers.length > 0)) expect(text).toContain(pad.name)
    for (const sample of ['Plain', 'Stereo L', 'Stereo R', 'soft', 'hard']) expect(text).toContain(`${sample} (Depth: 24`)
  })

  it.each(['dls-1', 'dls-2'])('%s: a drum instrument with its regions and waves', (id) => {
    const wanted = target(id)
    const { made: dls } = fit(every, sounds, wanted)
    const bytes = writeForTarget(dls, wanted)[0]!.bytes
    const text = dump('dlsdump', 'kit.dls', bytes)
    expect(text).toContain('Instrument 1) "Test kit"')
    expect(text).toContain('Region 1) Sample: "Plain", 48000Hz, KeyRange=36-36, VelocityRange=0-127')
    if (id === 'dls-2') expect(text).toMatch(/Sample: "hard".*VelocityRange=64-127/)
    // F_INSTRUMENT_DRUMS in ulBank (DLS 1.1b, `insh`).
    const insh = Buffer.from(bytes).indexOf('insh')
    expect(new DataView(bytes.buffer, bytes.byteOffset).getUint32(insh + 12, true)).toBe(0x8000_0000)
  })
})

/** libinstpatch 1.1 passes over the gain and the channel of a region, and takes a hold before the decay for none. */
const READ_OTHERWISE = ['Stereo', 'Quiet', 'Falling']

describe('DLS loaded by libinstpatch, as FluidSynth (Debian) does', () => {
  it.each(['dls-1', 'dls-2'])('%s: every note sounds, as loud as the SoundFont bank of the same kit where velocity is full', (id) => {
    const wanted = target(id)
    const { made: dls, loweredDb } = fit(every, sounds, wanted)
    const notes = notesOf(every, 1).filter(({ velocity }) => velocity === 127)
    const [bySf2, byDls] = [fluidRender(bank, notes, 0, 0.2), fluidRender(writeForTarget(dls, wanted)[0]!.bytes, notes, 0, 0.2)]
    const levelDb = ({ left, right }: { left: Float32Array, right: Float32Array }, { atSeconds }: FluidNote) => {
      const [from, to] = [atSeconds * FLUID_RATE, (atSeconds + 1) * FLUID_RATE]
      return 10 * Math.log10([left, right].reduce((sum, side) => sum + side.subarray(from, to).reduce((all, value) => all + value * value, 0), 1e-20))
    }
    const apart = notes.map(note => levelDb(byDls, note) - loweredDb - (levelDb(bySf2, note) - made.loweredDb))
    expect(apart.flatMap((db, i) => Math.abs(db) > 1 ? [every.pads[i]!.name] : [])).toEqual(READ_OTHERWISE)
  })
})
