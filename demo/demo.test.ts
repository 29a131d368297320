import { describe, expect, it } from 'vitest'
import { decodeAudio } from '../core/audio/decode'
import type { DecodedAudio } from '../core/audio/decoded'
import { isKind } from '../core/search/kinds'
import { kindFromName } from '../core/search/kindFromName'
import { peakOf, rmsOf, spectrumOf } from '../tests/helpers/audio'
import { allPacks } from './packs/packs'

const packs = allPacks(9)
const made = new Map<string, Promise<DecodedAudio>>()

function heard(path: string): Promise<DecodedAudio> {
  const file = packs.find(entry => entry.path.endsWith(path))
  if (!file) throw new Error(`There is no ${path} in the demo.`)
  const known = made.get(path) ?? decodeAudio(file.make())
  made.set(path, known)
  return known
}

const of = (part: string) => packs.filter(file => file.path.includes(part)).slice(0, 4).map(file => file.path)

/** Centre of gravity of the spectrum, in Hz. */
async function centroid(path: string): Promise<number> {
  const audio = await heard(path)
  const bins = spectrumOf(audio.channels[0]!, audio.sampleRate)
  const total = bins.reduce((sum, bin) => sum + bin.power, 0)
  return bins.reduce((sum, bin) => sum + bin.power * bin.hz, 0) / total
}

/** The strongest frequency below a limit, in Hz. */
async function strongest(path: string, belowHz: number): Promise<number> {
  const audio = await heard(path)
  return spectrumOf(audio.channels[0]!, audio.sampleRate).filter(bin => bin.hz < belowHz).toSorted((a, b) => b.power - a.power)[0]!.hz
}

/** Seconds until the sound stays 40 dB below its peak. */
async function lasts(path: string): Promise<number> {
  const audio = await heard(path)
  const channel = audio.channels[0]!
  const floor = peakOf(channel) / 100
  return (channel.findLastIndex(value => Math.abs(value) > floor) + 1) / audio.sampleRate
}

const each = <T>(part: string, measure: (path: string) => Promise<T>) => Promise.all(of(part).map(measure))

describe('the demo\'s packs', () => {
  it('hold about 400 files in four packs, under names that are all different', () => {
    expect(packs.length).toBeGreaterThanOrEqual(390)
    expect(new Set(packs.map(file => file.path)).size).toBe(packs.length)
    expect(new Set(packs.map(file => file.path.split('/')[0])).size).toBe(4)
  })

  it('are the same bytes for the same seed, and others for another', () => {
    const bytes = (seed: number) => Buffer.from(allPacks(seed)[40]!.make())
    expect(bytes(9).equals(bytes(9))).toBe(true)
    expect(bytes(9).equals(bytes(10))).toBe(false)
  })

  it('come in every container, rate, depth and channel count that real packs come in', async () => {
    const sample = await Promise.all(packs.filter((file, i) => i % 5 === 0 && !file.path.endsWith('.txt')).map(file => decodeAudio(file.make()).catch(() => undefined)))
    const all = sample.filter(audio => audio !== undefined)
    const seen = (fact: (audio: DecodedAudio) => unknown) => new Set(all.map(fact))
    expect([...seen(audio => audio.facts.container)].sort()).toEqual(['AIFF', 'WAVE'])
    for (const rate of [22_050, 32_000, 44_100, 48_000, 88_200, 96_000]) expect(seen(audio => audio.sampleRate)).toContain(rate)
    for (const depth of [8, 16, 24, 32]) expect(seen(audio => audio.facts.bitDepth)).toContain(depth)
    expect(seen(audio => audio.facts.codec)).toContain('float')
    expect(seen(audio => audio.channels.length)).toEqual(new Set([1, 2]))
    expect(all.some(audio => audio.facts.embedded.rootNote !== undefined && audio.facts.embedded.info)).toBe(true)
  })

  it('are named so that most kinds can be recognised, with kinds of the tree alone', () => {
    const kinds = packs.map(file => kindFromName(file.path)?.path)
    expect(kinds.filter(kind => kind !== undefined).length / packs.length).toBeGreaterThan(0.95)
    expect(kinds.every(kind => kind === undefined || isKind(kind))).toBe(true)
    const tops = new Set(kinds.map(kind => kind?.split('.')[0]))
    for (const top of ['kick', 'snare', 'rim', 'clap', 'hat', 'tom', 'cymbal', 'hand', 'shaker', 'metal', 'wood', 'voice', 'effect', 'tone', 'loop']) expect(tops).toContain(top)
  })
})

describe('what the demo sounds like', () => {
  it('kicks are low, snares in the middle, hats high', async () => {
    const [kicks, snares, hats] = await Promise.all([each('_BD_0', centroid), each('_SD_0', centroid), each('_CHH_', centroid)])
    for (const hz of kicks) expect(hz).toBeLessThan(400)
    for (const hz of snares) expect(hz).toBeGreaterThan(500)
    for (const hz of snares) expect(hz).toBeLessThan(6000)
    for (const hz of hats) expect(hz).toBeGreaterThan(6000)
  })

  it('open hats ring longer than pedal hats, and those longer than closed ones', async () => {
    const [open, pedal, closed] = (await Promise.all([each('_OHH_', lasts), each('_PHH_', lasts), each('_CHH_', lasts)])).map(list => list.reduce((sum, value) => sum + value, 0) / list.length)
    expect(open!).toBeGreaterThan(pedal! * 2)
    expect(pedal!).toBeGreaterThan(closed!)
  })

  it('toms go up from low to high', async () => {
    const [low, mid, high] = await Promise.all(['_LT_', '_MT_', '_HT_'].map(part => each(part, path => strongest(path, 400))))
    expect(Math.max(...low!)).toBeLessThan(Math.min(...mid!))
    expect(Math.max(...mid!)).toBeLessThan(Math.min(...high!))
  })

  it('a harder hit is louder and brighter', async () => {
    const [soft, hard] = ['Snare Oberdeck 01 soft.wav', 'Snare Oberdeck 01 hard.wav']
    expect(peakOf((await heard(hard!)).channels[0]!)).toBeGreaterThan(2 * peakOf((await heard(soft!)).channels[0]!))
    expect(await centroid(hard!)).toBeGreaterThan(await centroid(soft!))
  })

  it('cymbals outlast everything struck on a skin', async () => {
    const [crashes, snares] = await Promise.all([each('_CRS_', lasts), each('_SD_', lasts)])
    expect(Math.min(...crashes)).toBeGreaterThan(Math.max(...snares))
  })

  it('loops are as long as two bars of their tempo', async () => {
    for (const [name, bpm] of [['Gangway 122bpm.wav', 122], ['Sleeping Deck 74bpm.wav', 74]] as const) {
      const audio = await heard(name)
      expect(audio.frames / audio.sampleRate).toBeCloseTo(8 * 60 / bpm, 3)
    }
  })
})

describe('the accidents of real packs', () => {
  it('there is a silent file, a clipped one, one with an offset, a late one and one with four hits', async () => {
    expect(peakOf((await heard('Silence.wav')).channels[0]!)).toBe(0)
    expect([...(await heard('Snare too hot.wav')).channels[0]!].filter(value => value >= 32_767 / 32_768).length).toBeGreaterThan(100)
    const offset = (await heard('Tom with offset.wav')).channels[0]!
    expect(offset.reduce((sum, value) => sum + value, 0) / offset.length).toBeCloseTo(0.12, 2)
    const late = await heard('late rimshot.wav')
    expect(peakOf(late.channels[0]!.slice(0, 2.4 * late.sampleRate))).toBe(0)
    const four = await heard('four bongos.wav')
    const levels = Array.from({ length: 8 }, (_, quarter) => rmsOf(four.channels[0]!.slice(quarter * four.sampleRate / 4, (quarter + 1) * four.sampleRate / 4)))
    for (let hit = 0; hit < 4; hit++) expect(levels[hit * 2]!).toBeGreaterThan(5 * levels[hit * 2 + 1]!)
  })

  it('one is cut short and says so, one is no audio at all', async () => {
    expect((await heard('cut off crash.wav')).facts.warnings[0]).toMatch(/cut short/)
    await expect(heard('Kick not really.wav')).rejects.toThrow(/no audio that Emporion knows/)
  })

  it('one is there twice under two names and once more in another container', async () => {
    const bytes = (path: string) => Buffer.from(packs.find(file => file.path.endsWith(path))!.make())
    expect(bytes('Kick original.wav').equals(bytes('copy of 7.wav'))).toBe(true)
    const [wave, aiff] = await Promise.all([heard('Kick original.wav'), heard('Kick original.aif')])
    expect(aiff.facts.container).toBe('AIFF')
    expect(aiff.channels).toEqual(wave.channels)
  })

  it('names have umlauts, spaces, and up to 120 characters', () => {
    const names = packs.map(file => file.path.split('/').at(-1)!)
    expect(Math.max(...names.map(name => name.length))).toBeGreaterThanOrEqual(120)
    expect(packs.some(file => /[äöü]/.test(file.path) && file.path.includes(' '))).toBe(true)
  })
})
