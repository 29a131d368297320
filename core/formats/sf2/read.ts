import { EmporionError } from '../../errors'
import type { Envelope, Filter, SoundRef } from '../../kit/document'
import type { Identify, ReadKit } from '../read'
import { SoundTable } from '../soundTable'
import { absoluteCentsToHz, PAIR_GAIN_DB, timecentsToSeconds } from '../units'
import { kitFromZones } from '../zones/kitFromZones'
import { writeLoopOut } from '../zones/loops'
import { pairedUp } from '../zones/pairs'
import { PLAIN_ZONE, type NotCarried, type Zone } from '../zones/zone'
import { PERCUSSION_BANK, type Bank, type BankPreset, type BankSample, type BankZone } from './bank'
import { ATTENUATION_PLAYED, GENERATOR as G } from './generators'

/** Envelope times are those of 100 dB; a kit has those of 60. Source: SoundFont 2.04, 8.1.2, 36 and 38. */
const OF_100_DB = 0.6
const NO_TIME = -12_000
const OPEN_FILTER = 13_500
/** Attenuation of the sustain level at which nothing more is heard, in centibels. */
const SILENT_CB = 960
/** A release this long lets every hit ring to its end. */
const ENDLESS_RELEASE = 7_900
/** Some 30 ms, in timecents. */
const SHORT_DECAY = -6_000
const ROM = 0x8000
const LONGEST_SAMPLE_FRAMES = 64_000_000

/** Generators that a kit has no words for, with what they are. */
const LEFT_OUT: readonly (readonly [generator: number, what: string])[] = [
  [G.modLfoToPitch, 'vibrato'], [G.vibLfoToPitch, 'vibrato'], [G.modLfoToFilter, 'a moving filter'], [G.modLfoToVolume, 'tremolo'], [G.chorus, 'chorus'], [G.reverb, 'reverb'],
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
  if (!preset) throw new EmporionError('not-found', `The bank has ${bank.presets.length} presets, and none numbered ${presetAt + 1}.`)
  const told = new Map<string, NotCarried>()
  const tell = (where: string, what: string) => void told.set(`${where}\n${what}`, { where, what })
  const missing: string[] = []
  const playable = bank.zonesOf(preset).filter(zone => canPlay(bank.samples[zone.sample]!, missing))
  const paired = pairedUp(playable, zone => sideOf(bank, zone))
  const table = new SoundTable(identify)
  const sounds: SoundRef[] = []
  const zones: Zone[] = []
  const soleKeys = keysOfInstruments(playable)
  const loaded = new Map<string, number>()
  for (const [i, pair] of paired.entries()) {
    const [first] = pair
    const sample = bank.samples[first.sample]!
    onSample?.(i + 1, paired.length, sample.name)
    const loop = loopOf(first, sample)
    const key = `${pair.map(zone => zone.sample).join(' ')} ${loop ? `${loop.startFrame} ${loop.endFrame}` : ''}`
    let index = loaded.get(key)
    if (index === undefined) {
      const channels = await Promise.all(pair.map(zone => framesOf(bank, bank.samples[zone.sample]!, pair.length === 2 ? longestOf(bank, pair) : undefined)))
      const whole = loop ? writeLoopOut(channels, sample.sampleRate, loop) : channels
      index = sounds.push(table.add(nameOf(sample, pair.length === 2), { channels: whole, sampleRate: sample.sampleRate, depth: bank.depth })) - 1
      loaded.set(key, index)
    }
    if (loop) tell(sample.name, 'Its loop was written out for 4 s: a kit has no loops.')
    const sole = soleKeys.get(first.instrument) === 1
    zones.push(zoneOf(first, sample, { index, frames: sounds[index]!.frames, name: sole ? first.instrument : '', isPair: pair.length === 2, isLooped: loop !== undefined }))
    tellLeftOut(first, sample.name, tell)
  }
  if (zones.length === 0) throw new EmporionError('unreadable', { what: `The preset "${preset.name}" has no zone that can be played.`, kept: 'Nothing was brought in.', next: 'Choose another preset of the bank.' })
  if (bank.modulators > 0) tell(bank.name || 'The bank', `It has ${bank.modulators} modulators out of the usual; a kit has none.`)
  const made = kitFromZones({ name: preset.name || bank.name || 'Preset', zones, sounds, isPercussion: preset.bank === PERCUSSION_BANK })
  return { kit: made.kit, audio: table.audio, notCarried: [...told.values(), ...made.notCarried], missing: [...new Set(missing)] }
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

/** Zones of two linked samples that are panned to both sides and alike in all else are the sides of one. */
function sideOf(bank: Bank, zone: BankZone): { key: string, side: 'left' | 'right' } | undefined {
  const { type, link, sampleRate } = bank.samples[zone.sample]!
  const side = type === 4 ? 'left' : type === 2 ? 'right' : undefined
  const pan = zone.value(G.pan)
  if (!side || bank.samples[link]?.sampleRate !== sampleRate || (side === 'left' ? pan >= 0 : pan <= 0)) return undefined
  const shared = Object.values(G).filter(id => id !== G.pan && id !== G.sampleId && id !== G.instrument).map(id => zone.value(id))
  return { key: JSON.stringify([zone.instrument, zone.keys, zone.velocities, [zone.sample, link].sort((a, b) => a - b), shared]), side }
}

function longestOf(bank: Bank, pair: readonly BankZone[]): number {
  return Math.max(...pair.map(zone => bank.samples[zone.sample]!.end - bank.samples[zone.sample]!.start))
}

/** The frames of a sample, filled up with silence where its other side is longer. */
async function framesOf(bank: Bank, sample: BankSample, length = sample.end - sample.start): Promise<Float32Array> {
  const frames = await bank.readFrames(sample.start, sample.end - sample.start)
  if (frames.length === length) return frames
  const out = new Float32Array(length)
  out.set(frames)
  return out
}

function nameOf(sample: BankSample, isPair: boolean): string {
  return isPair ? sample.name.replace(/[\s_\-(]*[LR]\)?$/, '') || sample.name : sample.name
}

function loopOf(zone: BankZone, sample: BankSample): { startFrame: number, endFrame: number } | undefined {
  const mode = zone.value(G.sampleModes) & 3
  if (mode !== 1 && mode !== 3) return undefined
  const startFrame = sample.startLoop - sample.start + zone.value(G.startLoopOffset) + 32_768 * zone.value(G.startLoopCoarse)
  const endFrame = sample.endLoop - sample.start + zone.value(G.endLoopOffset) + 32_768 * zone.value(G.endLoopCoarse)
  return endFrame > startFrame && startFrame >= 0 && endFrame <= sample.end - sample.start ? { startFrame, endFrame } : undefined
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
    // A filter with a peak is lowered by half its height. Source: SoundFont 2.04, 8.1.2, 9.
    gainDb: -zone.value(G.attenuation) / 10 * ATTENUATION_PLAYED + (isPair ? PAIR_GAIN_DB : 0) - (filterOf(zone)?.resonanceDb ?? 0) / 2,
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
    holdSeconds: falls ? seconds(G.holdVolEnv) : 0,
    decaySeconds: falls ? Math.max(0.001, seconds(G.decayVolEnv) * OF_100_DB) : null,
    releaseSeconds: Math.max(0.001, seconds(G.releaseVolEnv) * OF_100_DB),
  }
}

/** Where the modulation envelope is while a hit is loudest: at its top, or at its sustain level where it falls there at once. */
function modulationOf(zone: BankZone): number {
  return zone.value(G.decayModEnv) < SHORT_DECAY ? Math.max(0, 1 - zone.value(G.sustainModEnv) / 1000) : 1
}

function filterOf(zone: BankZone): Filter | null {
  const cents = zone.value(G.filterCutoff) + zone.value(G.modEnvToFilter) * modulationOf(zone)
  return cents >= OPEN_FILTER ? null : { type: 'low-pass', cutoffHz: absoluteCentsToHz(Math.max(1500, cents)), resonanceDb: Math.max(0, zone.value(G.filterQ) / 10) }
}

function tellLeftOut(zone: BankZone, name: string, tell: (where: string, what: string) => void): void {
  for (const [generator, what] of LEFT_OUT) if (zone.value(generator) !== 0) tell(name, `Its zone has ${what}, which a kit has not.`)
  const moves = (zone.value(G.modEnvToFilter) !== 0 || zone.value(G.modEnvToPitch) !== 0) && zone.value(G.sustainModEnv) > 0 && zone.value(G.decayModEnv) >= SHORT_DECAY
  if (moves) tell(name, 'Its filter or its pitch moves during the hit; in the kit it stays where it begins.')
  const sustain = zone.value(G.sustainVolEnv)
  if (sustain > 0 && sustain < SILENT_CB) tell(name, `It falls by ${(sustain / 10).toFixed(1)} dB and stays there; in the kit it stays at its level.`)
  if (zone.value(G.delayVolEnv) > -7_000) tell(name, 'It begins with a delay, which a kit has not.')
  if (zone.value(G.keynum) >= 0 || zone.value(G.velocity) >= 0) tell(name, 'It sounds at one note or velocity whatever is played, which a kit has not.')
}
