import { counted } from '../../wording'
import { EmporionError, messageOf } from '../../errors'
import type { Envelope, Filter, SoundRef } from '../../kit/document'
import type { Identify, ReadKit } from '../read'
import { SoundTable } from '../soundTable'
import { absoluteCentsToHz, PAIR_GAIN_DB, timecentsToSeconds } from '../units'
import { kitFromZones } from '../zones/kitFromZones'
import { writeLoopOut, type Loop } from '../zones/loops'
import { pairedUp } from '../zones/pairs'
import { Tally } from '../zones/tally'
import { byLoss, PLAIN_ZONE, type Zone } from '../zones/zone'
import { PERCUSSION_BANK, type Bank, type BankPreset, type BankSample, type BankZone } from './bank'
import { ATTENUATION_PLAYED, GENERATOR as G } from './generators'

/** Envelope times are those of 100 dB; a kit has those of 60. Source: SoundFont 2.04, 8.1.2, 36 and 38. */
const OF_100_DB = 0.6
const NO_TIME = -12_000
const OPEN_FILTER = 13_500
const HIGHEST_CUTOFF_HZ = 20_000
/** Attenuation of the sustain level at which nothing more is heard, in centibels. */
const SILENT_CB = 960
/** A release this long lets every hit ring to its end. */
const ENDLESS_RELEASE = 7_900
/** Some 30 ms, in timecents. */
const SHORT_DECAY = -6_000
/** Some 18 ms, in timecents. */
const LONG_DELAY = -7_000
/** Types of samples that are a side of a pair. Source: SoundFont 2.04, 7.10. */
const RIGHT = 2
const LEFT = 4
const HARD_PAN = 500
const ROM = 0x8000
const LONGEST_SAMPLE_FRAMES = 64_000_000

/** Generators that a kit has no words for, by what they are. */
const LEFT_OUT: readonly (readonly [generator: number, what: string])[] = [
  [G.modLfoToPitch, 'Vibrato'], [G.vibLfoToPitch, 'Vibrato'], [G.modLfoToFilter, 'Moving filter'], [G.modLfoToVolume, 'Tremolo'], [G.chorus, 'Chorus'], [G.reverb, 'Reverb'],
]

/**
 * Reads one preset of a SoundFont bank into a kit, with the samples that it needs and no others.
 * Source: SoundFont 2.04 technical specification.
 *
 * @param presetAt its place in the bank's list of presets
 * @throws EmporionError `not-found` when there is no such preset, `unreadable` when nothing of it can be played
 */
export async function readPreset(bank: Bank, presetAt: number, identify: Identify, onSample?: (done: number, total: number, name: string) => void): Promise<ReadKit> {
  const preset = bank.presets[presetAt]
  if (!preset) throw new EmporionError('not-found', `The bank has ${counted(bank.presets.length, 'preset')}, and none numbered ${presetAt + 1}.`)
  const tally = new Tally('zone')
  const missing: string[] = []
  const playable = bank.zonesOf(preset).filter(zone => canPlay(bank.samples[zone.sample]!, missing))
  const paired = pairedUp(playable, zone => sideOf(bank, zone))
  const table = new SoundTable(identify)
  const sounds: SoundRef[] = []
  const zones: Zone[] = []
  const soleKeys = keysOfInstruments(playable)
  const loaded = new Map<string, LoadedSample | null>()
  for (const [i, pair] of paired.entries()) {
    const [first] = pair
    const sample = bank.samples[first.sample]!
    onSample?.(i + 1, paired.length, sample.name)
    const loop = loopOf(first, sample)
    const key = `${pair.map(zone => zone.sample).join(' ')} ${loop ? `${loop.startFrame} ${loop.endFrame}` : ''}`
    let held = loaded.get(key)
    if (held === undefined) {
      held = await load(bank, pair, loop, missing)
      loaded.set(key, held)
      if (held) sounds[held.index = sounds.length] = table.add(nameOf(sample, pair.length === 2), { channels: held.channels, sampleRate: sample.sampleRate, depth: bank.depth })
    }
    if (!held) continue
    if (held.isLooped) tally.add('Loops', 'A loop was written out for 4 s: a kit has no loops.', 'changed', sounds[held.index]!.name)
    const sole = soleKeys.get(first.instrument) === 1
    zones.push(zoneOf(first, sample, { index: held.index, frames: sounds[held.index]!.frames, name: sole ? first.instrument : '', isPair: pair.length === 2, isLooped: held.isLooped }))
    tellLeftOut(first, nameOf(sample, pair.length === 2), tally)
  }
  if (zones.length === 0) throw new EmporionError('unreadable', { what: `The preset "${preset.name}" has no zone that can be played.`, kept: 'Nothing was brought in.', next: 'Choose another preset of the bank.' })
  const made = kitFromZones({ name: preset.name || bank.name || 'Preset', zones, sounds, isPercussion: preset.bank === PERCUSSION_BANK })
  return { kit: made.kit, audio: table.audio, notCarried: byLoss([...tally.list, ...made.notCarried]), missing: [...new Set(missing)] }
}

interface LoadedSample {
  /** Its place among the sounds. */
  index: number
  readonly channels: readonly Float32Array[]
  readonly isLooped: boolean
}

/** The audio of a zone or a pair; null if it can't be read, which is reported in `missing`. */
async function load(bank: Bank, pair: readonly BankZone[], loop: Loop | undefined, missing: string[]): Promise<LoadedSample | null> {
  const [first, second] = pair
  // The same sample on both sides is a sound of one channel.
  const sides = second && second.sample !== first!.sample ? pair : [first!]
  const sample = bank.samples[first!.sample]!
  try {
    const channels = sameLength(await Promise.all(sides.map(zone => bank.readSample(bank.samples[zone.sample]!))))
    const written = loop && loop.endFrame <= channels[0]!.length ? writeLoopOut(channels, sample.sampleRate, loop) : channels
    return { index: -1, channels: written, isLooped: written !== channels }
  }
  catch (thrown) {
    if (!(thrown instanceof EmporionError)) throw thrown
    missing.push(`${sample.name}: ${messageOf(thrown)}`)
    return null
  }
}

/** The place of a preset that is asked for by name, by `bank:program`, or by its number from 1; undefined where there is none. */
export function findPreset(presets: readonly BankPreset[], asked: string): number | undefined {
  const wanted = asked.trim().toLowerCase()
  const [bank, program] = /^(\d+):(\d+)$/.exec(wanted)?.slice(1).map(Number) ?? []
  const byPlace = presets.findIndex(preset => preset.bank === bank && preset.program === program)
  const byName = presets.findIndex(preset => preset.name.toLowerCase() === wanted)
  const byNumber = /^\d+$/.test(wanted) ? Number(wanted) - 1 : -1
  return [byName, byPlace, byNumber].find(index => index >= 0 && index < presets.length)
}

function canPlay(sample: BankSample, missing: string[]): boolean {
  if ((sample.type & ROM) !== 0) missing.push(`${sample.name}: it lies in the ROM of a device.`)
  else if (sample.end - sample.start < 1) missing.push(`${sample.name}: it holds no audio.`)
  else if (sample.end - sample.start > LONGEST_SAMPLE_FRAMES) missing.push(`${sample.name}: it is longer than can be read.`)
  else if (sample.sampleRate < 1000 || sample.sampleRate > 768_000) missing.push(`${sample.name}: its rate of ${sample.sampleRate} Hz cannot be right.`)
  else return true
  return false
}

function keysOfInstruments(zones: readonly BankZone[]): Map<string, number> {
  const keys = new Map<string, Set<number>>()
  for (const zone of zones) {
    const held = keys.get(zone.instrument) ?? new Set()
    for (let key = zone.keys.low; key <= zone.keys.high; key++) held.add(key)
    keys.set(zone.instrument, held)
  }
  return new Map([...keys].map(([name, held]) => [name, held.size]))
}

/**
 * Zones of two samples that are panned hard to both sides and alike in all else are the sides of one: those of linked samples, and
 * where a bank links none, those whose names differ by their side alone, or that play the same sample.
 */
function sideOf(bank: Bank, zone: BankZone): { key: string, side: 'left' | 'right' } | undefined {
  const { name, type, link, sampleRate } = bank.samples[zone.sample]!
  const pan = zone.value(G.pan)
  const side = pan < 0 ? 'left' : 'right'
  // What is panned less far stays two layers: as one sound it would be wider.
  if (Math.abs(pan) < HARD_PAN || ((type === LEFT || type === RIGHT) && (type === LEFT) !== (side === 'left'))) return undefined
  const isLinked = (type === LEFT || type === RIGHT) && link !== zone.sample && bank.samples[link]?.link === zone.sample
  const of = isLinked ? [zone.sample, link].sort((a, b) => a - b) : [withoutSide(name), sampleRate]
  const shared = Object.values(G).filter(id => id !== G.pan && id !== G.sampleId && id !== G.instrument).map(id => zone.value(id))
  return { key: JSON.stringify([zone.instrument, zone.keys, zone.velocities, of, shared]), side }
}

function withoutSide(name: string): string {
  return name.replace(/[\s_\-(]*(?:left|right|[LR])\)?$/i, '') || name
}

/** Sides of one length: silence follows the shorter one. */
function sameLength(channels: readonly Float32Array[]): readonly Float32Array[] {
  const longest = Math.max(...channels.map(channel => channel.length))
  return channels.map((channel) => {
    if (channel.length === longest) return channel
    const out = new Float32Array(longest)
    out.set(channel)
    return out
  })
}

function nameOf(sample: BankSample, isPair: boolean): string {
  return isPair ? withoutSide(sample.name) : sample.name
}

function loopOf(zone: BankZone, sample: BankSample): Loop | undefined {
  const mode = zone.value(G.sampleModes) & 3
  if (mode !== 1 && mode !== 3) return undefined
  const startFrame = sample.startLoop - (sample.isPacked ? 0 : sample.start) + zone.value(G.startLoopOffset) + 32_768 * zone.value(G.startLoopCoarse)
  const endFrame = sample.endLoop - (sample.isPacked ? 0 : sample.start) + zone.value(G.endLoopOffset) + 32_768 * zone.value(G.endLoopCoarse)
  return endFrame > startFrame && startFrame >= 0 ? { startFrame, endFrame } : undefined
}

function zoneOf(zone: BankZone, sample: BankSample, { index, frames, name, isPair, isLooped }: { index: number, frames: number, name: string, isPair: boolean, isLooped: boolean }): Zone {
  const root = zone.value(G.rootKey)
  const group = zone.value(G.exclusiveClass)
  const release = zone.value(G.releaseVolEnv)
  return {
    ...PLAIN_ZONE,
    sample: index,
    name,
    lowNote: zone.keys.low, highNote: zone.keys.high,
    rootNote: root >= 0 && root <= 127 ? root : sample.originalPitch <= 127 ? sample.originalPitch : 60,
    keytrackCents: zone.value(G.scaleTuning),
    lowVelocity: Math.max(1, zone.velocities.low), highVelocity: Math.max(1, zone.velocities.high),
    // A filter with a peak lowers all by half its height, open or not. Source: SoundFont 2.04, 8.1.3, 9.
    gainDb: -zone.value(G.attenuation) / 10 * ATTENUATION_PLAYED + (isPair ? PAIR_GAIN_DB : 0) - Math.max(0, zone.value(G.filterQ) / 10) / 2,
    pan: isPair ? 0 : Math.max(-1, Math.min(1, zone.value(G.pan) / 500)),
    tuneCents: zone.value(G.coarseTune) * 100 + zone.value(G.fineTune) + sample.pitchCorrection + zone.value(G.modEnvToPitch) * modulationOf(zone),
    startFrame: zone.value(G.startOffset) + 32_768 * zone.value(G.startCoarse),
    endFrame: isLooped ? frames : frames + zone.value(G.endOffset) + 32_768 * zone.value(G.endCoarse),
    play: release >= ENDLESS_RELEASE ? 'one-shot' : 'gated',
    envelope: envelopeOf(zone),
    filter: filterOf(zone),
    chokeGroup: group > 0 ? group : null,
  }
}

function envelopeOf(zone: BankZone): Envelope {
  const seconds = (generator: number) => zone.value(generator) <= NO_TIME ? 0 : timecentsToSeconds(zone.value(generator))
  const falls = zone.value(G.sustainVolEnv) >= SILENT_CB
  return {
    attackSeconds: seconds(G.attackVolEnv),
    holdSeconds: falls ? seconds(G.holdVolEnv) * byKey(zone, G.keyToHold) : 0,
    decaySeconds: falls ? Math.max(0.001, seconds(G.decayVolEnv) * OF_100_DB * byKey(zone, G.keyToDecay)) : null,
    releaseSeconds: Math.max(0.001, seconds(G.releaseVolEnv) * OF_100_DB),
  }
}

/** How many times as long a time is at the key of a zone, or at its root where it has several. Source: SoundFont 2.04, 8.1.2, 39 and 40: timecents a key below 60. */
function byKey(zone: BankZone, generator: number): number {
  const value = zone.value(generator)
  const root = zone.value(G.rootKey)
  const key = zone.keys.low === zone.keys.high ? zone.keys.low : root >= 0 && root <= 127 ? root : 60
  return value === 0 ? 1 : timecentsToSeconds((60 - key) * value)
}

/** Where the modulation envelope is while a hit is loudest: at its top, at its sustain level where it falls there at once, or at nothing where it comes late. */
function modulationOf(zone: BankZone): number {
  if (comesLate(zone)) return 0
  return zone.value(G.decayModEnv) < SHORT_DECAY ? Math.max(0, 1 - zone.value(G.sustainModEnv) / 1000) : 1
}

function comesLate(zone: BankZone): boolean {
  return zone.value(G.attackModEnv) >= SHORT_DECAY || zone.value(G.delayModEnv) >= SHORT_DECAY
}

function filterOf(zone: BankZone): Filter | null {
  const cents = zone.value(G.filterCutoff) + zone.value(G.modEnvToFilter) * modulationOf(zone)
  const resonanceDb = Math.max(0, zone.value(G.filterQ) / 10)
  // One that is open is heard by its peak alone.
  return cents >= OPEN_FILTER && resonanceDb === 0 ? null : { type: 'low-pass', cutoffHz: Math.min(HIGHEST_CUTOFF_HZ, absoluteCentsToHz(Math.max(1500, cents))), resonanceDb }
}

function tellLeftOut(zone: BankZone, name: string, tally: Tally): void {
  const tell = (where: string, what: string) => tally.add(where, what, 'changed', name)
  for (const [generator, what] of LEFT_OUT) if (zone.value(generator) !== 0) tell(what, `A kit has no ${what.toLowerCase()}, and the zone has.`)
  const moves = (zone.value(G.modEnvToFilter) !== 0 || zone.value(G.modEnvToPitch) !== 0) && (comesLate(zone) || (zone.value(G.sustainModEnv) > 0 && zone.value(G.decayModEnv) >= SHORT_DECAY))
  if (moves) tell('Modulation envelope', 'The filter or the pitch moves during the hit; in the kit it stays where it begins.')
  const sustain = zone.value(G.sustainVolEnv)
  if (sustain > 0 && sustain < SILENT_CB) tell('Sustain', 'The sound falls to a level and stays there; in the kit it stays at its level.')
  if (zone.value(G.delayVolEnv) > LONG_DELAY) tell('Delay', 'The sound begins with a delay, which a kit has not.')
  if (zone.value(G.keynum) >= 0 || zone.value(G.velocity) >= 0) tell('Fixed key or velocity', 'It sounds at one note or velocity whatever is played, which a kit has not.')
  if (zone.keys.low !== zone.keys.high && (zone.value(G.keyToHold) !== 0 || zone.value(G.keyToDecay) !== 0)) tell('Envelope by key', 'Times of the envelope follow the keys; in the kit they are those of the root note.')
  if (zone.modulators > 0) tell('Modulators', 'It is moved by modulators out of the usual; a kit has none.')
}
